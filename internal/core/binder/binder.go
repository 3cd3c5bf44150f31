// Package binder reads what stands in a school's binder, a document or a spreadsheet's cells as people write it, as requirements of a
// curriculum: pages of a rung with their headings, lines, amounts and remarks, and attacks in words. What is doubtful is asked, and nothing
// is misread in silence.
package binder

import "velvetladder/internal/core/curriculum"

// Reader reads pages for a curriculum that is open.
type Reader struct{ *curriculum.Book }

// For is what reads pages for a curriculum that is open.
func For(b *curriculum.Book) *Reader { return &Reader{b} }

// Open opens a curriculum for the reading of pages.
func Open(c curriculum.Curriculum) *Reader { return For(curriculum.Open(c)) }

// Kind is what kind of technique something is, which a reader asks of every word.
type Kind = curriculum.Kind
