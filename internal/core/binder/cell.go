package binder

import (
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// SectionCalled is the name of the section that a heading means, spelt otherwise or by its kind too: Self Defense; "" none, or several.
func (b *Reader) SectionCalled(heading string) string {
	for _, s := range b.Sections {
		if check.Key(s.Name) == check.Key(heading) {
			return s.Name
		}
	}
	if h, is := b.heading(heading); is && !h.mixed && !h.unknown {
		return h.section
	}
	return ""
}

// ReadCell reads what the cell of a technique asks, as a page would below the heading of its section: a line for each that it names. One that
// is known is that alone. The kind said holds for all; an amount stands only where the cell says one.
func (b *Reader) ReadCell(l PageLine) []PageLine {
	if b.Named(l.Name) != nil {
		b.Settle(&l)
		return []PageLine{l}
	}
	text := l.Name
	if l.Said != "" {
		text = WithKind(text, l.Name, l.Said.Words(), true)
	}
	if l.Section != "" {
		text = l.Section + "\n" + text
	}
	var out []PageLine
	for _, x := range b.ParsePage(text) {
		if x.Aside != "" {
			continue
		}
		if x.usual {
			x.Quantity = curriculum.Quantity{}
		}
		out = append(out, x)
	}
	if out == nil { // it is set aside on a page
		b.Settle(&l)
		out = append(out, l)
	}
	return out
}
