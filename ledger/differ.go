package ledger

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"unicode"
)

// mostTold limits (characters) a value that is shown; a longer one is only said to differ.
const mostTold = 24

// differing says in what two documents differ: "swivel drop 0.025, in the file 0.03; notes".
func differing(mine, theirs []byte) string {
	var list []string
	differ("", mine, theirs, &list)
	return strings.Join(list, "; ")
}

// differingDocs does so with two that are not JSON yet.
func differingDocs(mine, theirs any) string {
	x, _ := json.Marshal(mine) // what came out of JSON goes back into it
	y, _ := json.Marshal(theirs)
	return differing(x, y)
}

// differ collects the fields in which two objects differ, with those of the objects in them.
func differ(name string, mine, theirs []byte, list *[]string) {
	var x, y map[string]json.RawMessage
	if json.Unmarshal(mine, &x) != nil || json.Unmarshal(theirs, &y) != nil || x == nil || y == nil {
		*list = append(*list, name+values(mine, theirs))
		return
	}
	names := map[string]bool{}
	for n := range x {
		names[n] = true
	}
	for n := range y {
		names[n] = true
	}
	sorted := make([]string, 0, len(names))
	for n := range names {
		if !bytes.Equal(x[n], y[n]) {
			sorted = append(sorted, n)
		}
	}
	slices.Sort(sorted)
	for _, n := range sorted {
		differ(spaced(n), x[n], y[n], list)
	}
}

// values tells two that are short.
func values(mine, theirs []byte) string {
	x, y := short(mine), short(theirs)
	if x == "" || y == "" {
		return ""
	}
	return " " + x + ", in the file " + y
}

func short(value []byte) string {
	switch {
	case len(value) == 0:
		return "nothing"
	case value[0] == '{' || value[0] == '[' || len(value) > mostTold:
		return ""
	}
	return string(value)
}

// spaced is the name of a field as words: swivelDrop is "swivel drop".
func spaced(name string) string {
	var out strings.Builder
	for _, r := range name {
		if unicode.IsUpper(r) {
			out.WriteRune(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return out.String()
}
