// Command styles writes the part of Bulma that the pages use: of some three thousand classes they have a few dozen, and a browser reads all of a
// style sheet, and goes through its rules, on every page.
//
//	go run ./scripts/styles
package main

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

const (
	whole = "scripts/styles/bulma-no-dark-mode.min.css"
	part  = "internal/web/frame/static/vendor/bulma/bulma.css"
)

func main() {
	css, err := used(".")
	if err == nil {
		err = os.WriteFile(part, []byte(css), 0o644)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

var (
	word     = regexp.MustCompile(`[A-Za-z0-9_-]+`)
	class    = regexp.MustCompile(`\.(-?[A-Za-z_][\w-]*)`)
	without  = regexp.MustCompile(`:not\([^()]*\)`)
	variable = regexp.MustCompile(`var\((--[\w-]+)`)
	named    = regexp.MustCompile(`(?:^|;)animation(?:-name)?:[^;]*`)
)

// used is the style sheet of Bulma with the rules alone whose classes stand in a page, a script or the code of the project in folder root, and the
// custom properties alone that these rules, or the project's own styles, refer to.
func used(root string) (string, error) {
	data, err := os.ReadFile(filepath.Join(root, whole))
	if err != nil {
		return "", err
	}
	words, own := map[string]bool{}, ""
	err = filepath.WalkDir(filepath.Join(root, "internal"), func(path string, d fs.DirEntry, err error) error {
		switch ext := filepath.Ext(path); {
		case err != nil:
			return err
		case d.IsDir() && d.Name() == "vendor":
			return filepath.SkipDir
		case !slices.Contains([]string{".html", ".js", ".go", ".css"}, ext) || strings.HasSuffix(path, "_test.go"):
			return nil
		default:
			text, err := os.ReadFile(path)
			if ext == ".css" || ext == ".html" || ext == ".js" {
				own += string(text)
			}
			if ext != ".css" {
				for _, w := range word.FindAllString(string(text), -1) {
					words[w] = true
				}
			}
			return err
		}
	})
	if err != nil {
		return "", err
	}
	sheet := parse(string(data))
	sheet = sheet.keep(func(selector string) bool {
		return !slices.ContainsFunc(class.FindAllStringSubmatch(without.ReplaceAllString(selector, ""), -1), func(m []string) bool { return !words[m[1]] })
	})
	sheet.dropVariables(own)
	return "@charset \"UTF-8\";\n/*! bulma.io v1.0.4 | MIT License | github.com/jgthms/bulma; the part that is used, by scripts/styles */\n" + sheet.String(), nil
}

// block is a rule with its declarations, or an at-rule with rules inside.
type block struct {
	head   string
	decls  []string
	inside blocks
}

type blocks []*block

var comment = regexp.MustCompile(`(?s)/\*.*?\*/`)

// parse reads a style sheet that is valid and has no nested rules but in at-rules; statements such as @charset are left out.
func parse(css string) (out blocks) {
	css = comment.ReplaceAllString(css, "")
	for {
		css = strings.TrimSpace(css)
		at := strings.IndexAny(css, "{;")
		if at < 0 {
			return out
		}
		if css[at] == ';' {
			css = css[at+1:]
			continue
		}
		head, depth, end := strings.TrimSpace(css[:at]), 1, at+1
		for ; depth > 0 && end < len(css); end++ {
			depth += strings.Count(css[end:end+1], "{") - strings.Count(css[end:end+1], "}")
		}
		body := css[at+1 : end-1]
		if css = css[end:]; strings.HasPrefix(head, "@") {
			out = append(out, &block{head: head, inside: parse(body)})
			continue
		}
		out = append(out, &block{head: head, decls: split(body, ';')})
	}
}

// split parts a text at a sign outside brackets and strings.
func split(text string, sign byte) (out []string) {
	depth, quote, from := 0, byte(0), 0
	for i := range len(text) {
		switch c := text[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '(':
			depth++
		case c == ')':
			depth--
		case c == sign && depth == 0:
			out, from = append(out, text[from:i]), i+1
		}
	}
	if strings.TrimSpace(text[from:]) != "" {
		out = append(out, text[from:])
	}
	return out
}

// keep is the sheet with the selectors that are wanted, and the steps of all animations.
func (bs blocks) keep(wanted func(selector string) bool) (out blocks) {
	for _, b := range bs {
		if strings.HasPrefix(b.head, "@keyframes") {
			out = append(out, b)
			continue
		}
		if strings.HasPrefix(b.head, "@") {
			if inside := b.inside.keep(wanted); len(inside) > 0 {
				out = append(out, &block{head: b.head, inside: inside})
			}
			continue
		}
		if selectors := slices.DeleteFunc(split(b.head, ','), func(s string) bool { return !wanted(s) }); len(selectors) > 0 {
			out = append(out, &block{head: strings.Join(selectors, ","), decls: b.decls})
		}
	}
	return out
}

// each calls f with every rule, those of at-rules too.
func (bs blocks) each(f func(*block)) {
	for _, b := range bs {
		if f(b); b.inside != nil {
			b.inside.each(f)
		}
	}
}

// dropVariables takes out the custom properties that neither a rule nor the text own refers to, by others too.
func (bs blocks) dropVariables(own string) {
	needed, values := map[string]bool{}, map[string][]string{}
	var todo []string
	need := func(text string) {
		for _, m := range variable.FindAllStringSubmatch(text, -1) {
			if !needed[m[1]] {
				needed[m[1]] = true
				todo = append(todo, m[1])
			}
		}
	}
	need(own)
	bs.each(func(b *block) {
		for _, d := range b.decls {
			if name, value, _ := strings.Cut(d, ":"); strings.HasPrefix(name, "--") {
				values[name] = append(values[name], value)
			} else {
				need(d)
			}
		}
	})
	for ; len(todo) > 0; todo = todo[1:] {
		for _, value := range values[todo[0]] {
			need(value)
		}
	}
	bs.each(func(b *block) {
		b.decls = slices.DeleteFunc(b.decls, func(d string) bool {
			name, _, _ := strings.Cut(d, ":")
			return strings.HasPrefix(name, "--") && !needed[name]
		})
	})
}

// String is the sheet, a rule a line; rules with nothing in them are left out, and animations that no rule names.
func (bs blocks) String() string {
	var out strings.Builder
	var moving []string
	bs.each(func(b *block) {
		moving = append(moving, named.FindAllString(strings.Join(b.decls, ";"), -1)...)
	})
	bs.write(&out, strings.Join(moving, ";"))
	return out.String()
}

func (bs blocks) write(out *strings.Builder, moving string) {
	for _, b := range bs {
		name, keyframes := strings.CutPrefix(b.head, "@keyframes ")
		switch {
		case keyframes && !strings.Contains(moving, strings.TrimSpace(name)):
		case b.inside != nil:
			var inside strings.Builder
			if b.inside.write(&inside, moving); inside.Len() > 0 {
				fmt.Fprintf(out, "%s{\n%s}\n", b.head, inside.String())
			}
		case len(b.decls) > 0:
			fmt.Fprintf(out, "%s{%s}\n", b.head, strings.Join(b.decls, ";"))
		}
	}
}
