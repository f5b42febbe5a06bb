// Command licences lists what is inside the program and under which licence: the Go modules that it is built of, and
// the packages of the front end. It reads what is on disk: go.mod's modules and ui/node_modules.
package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

func main() {
	modules, err := goModules()
	packages, failed := npmPackages("ui")
	if err := errors.Join(err, failed); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	out := bufio.NewWriter(os.Stdout)
	fmt.Fprintln(out, "Bractum is under the licence in LICENSE. It holds these, each under its own:")
	for _, part := range append(modules, packages...) {
		fmt.Fprintf(out, "\n%s\n%s %s\n\n%s\n", strings.Repeat("-", 78), part.name, part.version, part.licence)
	}
	if err := out.Flush(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
}

type part struct{ name, version, licence string }

// goModules are those of which packages are built into the program.
func goModules() ([]part, error) {
	out, err := exec.Command("go", "list", "-deps", "-f",
		"{{with .Module}}{{if not .Main}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}",
		"./cmd/bractum").
		Output()
	if err != nil {
		return nil, err
	}
	lines := strings.Fields(strings.ReplaceAll(string(out), "\t", " "))
	var all []part
	for i := 0; i+2 < len(lines); i += 3 {
		p := part{name: lines[i], version: lines[i+1]}
		if slices.ContainsFunc(all, func(o part) bool { return o.name == p.name }) {
			continue
		}
		if p.licence, err = licence(lines[i+2]); err != nil {
			return nil, fmt.Errorf("%s: %w", p.name, err)
		}
		all = append(all, p)
	}
	slices.SortFunc(all, func(a, b part) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

// npmPackages are those that the front end depends on, and what they depend on.
func npmPackages(folder string) ([]part, error) {
	lock, err := os.ReadFile(filepath.Join(folder, "package-lock.json"))
	if err != nil {
		return nil, err
	}
	var locked struct {
		Packages map[string]struct {
			Version, License string
			Dev, Optional    bool
		}
	}
	if err := json.Unmarshal(lock, &locked); err != nil {
		return nil, err
	}
	var all []part
	for path, p := range locked.Packages {
		if path == "" || p.Dev || p.Optional {
			continue
		}
		text, err := licence(filepath.Join(folder, path))
		if err != nil {
			text = "Licence: " + p.License
		}
		all = append(all, part{strings.TrimPrefix(path, "node_modules/"), p.Version, text})
	}
	slices.SortFunc(all, func(a, b part) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

// licence is the text of a folder's licences.
func licence(folder string) (string, error) {
	files, err := os.ReadDir(folder)
	if err != nil {
		return "", err
	}
	var texts []string
	for _, f := range files {
		name := strings.ToLower(f.Name())
		if f.IsDir() ||
			!strings.HasPrefix(name, "licen") && !strings.HasPrefix(name, "copying") &&
				!strings.HasPrefix(name, "notice") {
			continue
		}
		text, err := os.ReadFile(filepath.Join(folder, f.Name()))
		if err != nil {
			return "", err
		}
		texts = append(texts, string(bytes.TrimSpace(text)))
	}
	if len(texts) == 0 {
		return "", errors.New("has no licence beside it")
	}
	return strings.Join(texts, "\n\n"), nil
}
