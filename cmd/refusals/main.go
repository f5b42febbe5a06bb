// Refusals gathers, from the source of the program, every sentence with which it refuses something and every name of a
// field that such a sentence may be about, as the interface's catalogue of words has them, and writes them as a JSON
// list to standard output. Run it from the top of the source
// tree: make generate does.
package main

import (
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"bractum/core/studio"
)

// sentence is which argument of a function is a sentence: those that make refusals, problems and answers.
var sentence = map[string]int{"Refuse": 0, "RefuseUnless": 1, "Say": 0, "Flaw": 1, "say": 1, "New": 0, "NotFound": 0,
	"broken": 1}

// floors are the parts of the program that people hear from.
var floors = []string{"api", "core", "outside", "picture", "store", "web"}

func main() {
	if err := write(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func write() error {
	var all []string
	files := token.NewFileSet()
	for _, floor := range floors {
		err := filepath.WalkDir(floor, func(path string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(files, path, nil, 0)
			if err != nil {
				return err
			}
			ast.Inspect(file, func(node ast.Node) bool {
				if text, is := said(node); is {
					all = append(all, studio.Say(text).Message())
				}
				if field, is := node.(*ast.Field); is && floor == "core" {
					all = append(all, names(field)...)
				}
				return true
			})
			return nil
		})
		if err != nil {
			return err
		}
	}
	slices.Sort(all)
	out := json.NewEncoder(os.Stdout)
	out.SetEscapeHTML(false)
	out.SetIndent("", "  ")
	return out.Encode(slices.Compact(all))
}

// said is the sentence that a call or a value states.
func said(node ast.Node) (string, bool) {
	switch node := node.(type) {
	case *ast.CallExpr:
		name := called(node.Fun)
		at, is := sentence[name]
		if strings.HasPrefix(name, "Error4") {
			at, is = 0, true
		}
		if name == "say" && len(node.Args) > 2 && text(node.Args[1]) == "" {
			at = 2 // by line and column
		}
		if is && at < len(node.Args) {
			found := text(node.Args[at])
			return found, found != ""
		}
	case *ast.CompositeLit:
		if called(node.Type) == "NotFound" && len(node.Elts) == 1 {
			value := node.Elts[0]
			if field, is := value.(*ast.KeyValueExpr); is {
				value = field.Value
			}
			found := text(value)
			return found, found != ""
		}
	}
	return "", false
}

// units are ends of names that say in what a field is kept.
var units = []string{"Micrometres", "Milligrams", "Milliminutes", "PerMille", "Minutes"}

// names are what a field of a document is called in words: `keepsMinutes` is "keeps", each of `skills` a "skill".
func names(field *ast.Field) []string {
	if field.Tag == nil {
		return nil
	}
	name, _, _ := strings.Cut(reflect.StructTag(strings.Trim(field.Tag.Value, "`")).Get("json"), ",")
	for _, unit := range units {
		if rest, is := strings.CutSuffix(name, unit); is && rest != "" {
			name = rest
			break
		}
	}
	if name == "" || name == "-" {
		return nil
	}
	var words strings.Builder
	for _, letter := range name {
		if unicode.IsUpper(letter) {
			words.WriteByte(' ')
		}
		words.WriteRune(unicode.ToLower(letter))
	}
	all := []string{words.String()}
	if _, list := field.Type.(*ast.ArrayType); list {
		all = append(all, strings.TrimSuffix(words.String(), "s"))
	}
	return all
}

// called is the last name of a function or a type.
func called(of ast.Expr) string {
	switch of := of.(type) {
	case *ast.Ident:
		return of.Name
	case *ast.SelectorExpr:
		return of.Sel.Name
	}
	return ""
}

// text is a text that stands in the source, in one piece or joined.
func text(of ast.Expr) string {
	switch of := of.(type) {
	case *ast.BasicLit:
		if plain, err := strconv.Unquote(of.Value); err == nil && of.Kind == token.STRING {
			return plain
		}
	case *ast.BinaryExpr:
		if left, right := text(of.X), text(of.Y); left != "" && right != "" {
			return left + right
		}
	}
	return ""
}
