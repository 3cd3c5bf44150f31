package progress_test

import (
	"velvetladder/internal/core/progress"
	"velvetladder/internal/words"
)

func init() {
	progress.SayFigure, progress.SayLack, progress.SayVerdict, progress.SayDrives = words.Figure, words.Lack, words.Verdict, words.Drives
}
