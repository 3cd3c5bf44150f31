package exchange

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/go-json-experiment/json"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// CurriculumFormat and CurriculumVersion name the format in the file itself.
const (
	CurriculumFormat  = "velvetladder curriculum"
	CurriculumVersion = 1
)

// curriculumFile is the whole file. docs/curriculum.schema.json describes it.
type curriculumFile struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	curriculum.Curriculum
}

// maxCurriculum bounds a file: the largest curriculum allowed fits.
const maxCurriculum = 64 << 20

// CurriculumError says what is wrong with a curriculum's file, each with its JSON path.
type CurriculumError struct{ Found []curriculum.Invalid }

// Error gives every finding on a line of its own.
func (e *CurriculumError) Error() string {
	text := ""
	for i, x := range e.Found {
		if i > 0 {
			text += "\n"
		}
		text += x.Error()
	}
	return text
}

// ReadCurriculum reads a curriculum and checks all of it. Whatever is wrong is a
// *CurriculumError with the JSON paths of the places; nothing is guessed or left out.
func ReadCurriculum(r io.Reader) (curriculum.Curriculum, error) {
	fail := func(path, format string, args ...any) (curriculum.Curriculum, error) {
		return curriculum.Curriculum{}, &CurriculumError{[]curriculum.Invalid{{Path: path, Text: fmt.Sprintf(format, args...)}}}
	}
	data, err := io.ReadAll(io.LimitReader(r, maxCurriculum+1))
	if err != nil {
		return curriculum.Curriculum{}, err
	}
	if len(data) > maxCurriculum {
		return fail("$", "is larger than %d MiB", maxCurriculum>>20)
	}
	var in curriculumFile
	if err := json.Unmarshal(data, &in, json.RejectUnknownMembers(true)); err != nil {
		var at *TallyError
		if errors.As(jsonProblem(data, err), &at) {
			return fail(at.Path, "%s", at.Problem)
		}
		return fail("$", "%s", err)
	}
	if in.Format != CurriculumFormat {
		return fail("$.format", "is %q; a curriculum's file says %q", in.Format, CurriculumFormat)
	}
	if in.Version != CurriculumVersion {
		return fail("$.version", "is %d; this program reads version %d", in.Version, CurriculumVersion)
	}
	for i := range in.Curriculum.Sections { // a file of before sections had kinds
		x := &in.Curriculum.Sections[i]
		x.Kind = cmp.Or(x.Kind, curriculum.UsualKind(x.Name))
	}
	if found := in.Curriculum.Validate(); len(found) > 0 {
		return curriculum.Curriculum{}, &CurriculumError{found}
	}
	return in.Curriculum, nil
}

// WriteCurriculum writes the file that ReadCurriculum reads. The same curriculum gives the
// same bytes: techniques stand in the order of their names.
func WriteCurriculum(w io.Writer, c curriculum.Curriculum) error {
	c.Techniques = slices.Clone(c.Techniques)
	slices.SortStableFunc(c.Techniques, func(x, y curriculum.Technique) int { return strings.Compare(check.Key(x.Name), check.Key(y.Name)) })
	return writeJSON(w, curriculumFile{CurriculumFormat, CurriculumVersion, c})
}
