//go:build !race

package golden

const raced = false
