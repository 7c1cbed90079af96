// Package input refuses bad values by the name of their field.
//
// Everything that comes from outside — a JSON document, a form, a stored rig — is read through an Object, which knows
// which fields were asked for and complains about the first one that is missing, of the wrong kind, outside its limits
// or not known at all. Input is refused whole; nothing is read by half.
package input

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"sort"
	"strconv"
	"strings"
	"unicode/utf8"

	"melodromos/core/words"
)

// Error says which field was refused and what was expected of it. Field is a dotted path such as "rig.bagLength". Where
// one word of a text was refused, Column (from 1) and Width say which, in characters.
type Error struct {
	Field         string
	Reason        string
	Column, Width int
	Line          int // of the file that it stands in, from 1; 0 where that is not known

	format string // what Reason was made of
	args   []any
}

// Error is the refusal for somebody who wrote the document: with the field, and the column in a text.
func (e *Error) Error() string {
	text := e.Reason
	if e.Column > 0 {
		text = fmt.Sprintf("column %d: %s", e.Column, text)
	}
	if e.Line > 0 {
		text = fmt.Sprintf("line %d: %s", e.Line, text)
	}
	if e.Field == "" {
		return text
	}
	return e.Field + ": " + text
}

// Refuse makes an Error for a field. Figures are told with six digits at most, a words.Magnitude and Limits in the
// units of whoever reads them.
func Refuse(field, format string, args ...any) error {
	e := &Error{Field: field, format: format, args: args}
	e.Reason = e.in(words.Metric)
	return e
}

// In is the same refusal for somebody who reads units of a system.
func (e *Error) In(u words.Units) *Error {
	told := *e
	if e.format != "" {
		told.Reason = e.in(u)
	}
	return &told
}

func (e *Error) in(u words.Units) string {
	args := make([]any, len(e.args))
	for i, a := range e.args {
		switch a := a.(type) {
		case interface{ In(u words.Units) string }:
			args[i] = a.In(u)
		case float64:
			args[i] = a
			if near, err := strconv.ParseFloat(words.Figure(a), 64); err == nil {
				args[i] = near
			}
		default:
			args[i] = a
		}
	}
	return fmt.Sprintf(e.format, args...)
}

// Under puts a path in front of the field of an Error, so that a refusal of "bagLength" reads "rig.bagLength" where the
// bag stands inside a larger document. Other errors pass unchanged.
func Under(prefix string, err error) error {
	var refused *Error
	if prefix == "" || !errors.As(err, &refused) {
		return err
	}
	moved := *refused
	moved.Field = join(prefix, refused.Field)
	return &moved
}

func join(prefix, name string) string {
	switch {
	case prefix == "":
		return name
	case name == "":
		return prefix
	}
	return prefix + "." + name
}

// Object reads one JSON object strictly. Names are matched to the letter. The first refusal is kept and returned by
// Done; later reads then give zero values, so that reading code needs no error branch a field.
type Object struct {
	path   string
	fields map[string]json.RawMessage
	err    error
}

// Parse opens a JSON object. Text that is not one object, or has anything after it, is refused at Done.
func Parse(data []byte) *Object { return ParseAt("", data) }

// ParseAt opens an object that stands at a path of a larger document, by which its fields are refused.
func ParseAt(path string, data []byte) *Object {
	o := &Object{path: path}
	d := json.NewDecoder(bytes.NewReader(data))
	if err := d.Decode(&o.fields); err != nil {
		o.err = Refuse(path, "expected one JSON object (%s)", plain(err))
	} else if o.fields == nil {
		o.err = Refuse(path, "expected one JSON object, not null")
	} else if d.More() {
		o.err = Refuse(path, "expected one JSON object and nothing after it")
	}
	return o
}

// plain strips the decoder's words down to what a person can use.
func plain(err error) string {
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return "this is a " + kind.Value
	}
	return err.Error()
}

func (o *Object) take(name string) (json.RawMessage, bool) {
	raw, ok := o.fields[name]
	delete(o.fields, name)
	if !ok || o.err != nil || string(raw) == "null" {
		return nil, false
	}
	return raw, true
}

// Fail records a refusal of a field of this object, unless an earlier one stands.
func (o *Object) Fail(name, format string, args ...any) {
	if o.err == nil {
		o.err = Refuse(join(o.path, name), format, args...)
	}
}

// Has says whether the field is there, null counting as absent.
func (o *Object) Has(name string) bool {
	raw, ok := o.fields[name]
	return ok && string(raw) != "null"
}

// Limits of a number: Min to Max, both included unless Open, in words of Unit ("m", "kg", "degrees").
type Limits struct {
	Min, Max float64
	Open     bool // Min itself is refused
	Unit     string
}

func (l Limits) String() string { return l.In(words.Metric) }

// In writes limits for somebody who reads units of a system.
func (l Limits) In(u words.Units) string {
	if l.Open {
		low := words.Figure(l.Min) // mostly 0, which needs no unit
		if l.Min != 0 && u != words.Metric {
			low = l.of(l.Min).In(u)
		}
		return fmt.Sprintf("a number above %s and at most %s", low, l.of(l.Max).In(u))
	}
	return "a number from " + l.of(l.Min).Range(l.Max, u)
}

func (l Limits) of(v float64) words.Magnitude { return words.Magnitude{Value: v, Unit: l.Unit} }

// Check refuses a value outside the limits, not a number and infinities included.
func (l Limits) Check(field string, v float64) error {
	if math.IsNaN(v) || v < l.Min || v > l.Max || (l.Open && v == l.Min) {
		if l.Unit == "m" || l.Unit == "m/s" || l.Unit == "kg" {
			return Refuse(field, "expected %s, not %s", l, l.of(v))
		}
		return Refuse(field, "expected %s, not %s", l, words.Figure(v))
	}
	return nil
}

// Number reads a required number within limits.
func (o *Object) Number(name string, l Limits) float64 {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected %s", l)
		return 0
	}
	return o.number(name, raw, l)
}

// NumberOr reads a number within limits, or gives the default where the field is left out.
func (o *Object) NumberOr(name string, l Limits, otherwise float64) float64 {
	raw, ok := o.take(name)
	if !ok {
		return otherwise
	}
	return o.number(name, raw, l)
}

func (o *Object) number(name string, raw json.RawMessage, l Limits) float64 {
	var v float64
	if err := json.Unmarshal(raw, &v); err != nil {
		o.Fail(name, "expected %s, not %s", l, short(raw))
		return 0
	}
	if err := l.Check(join(o.path, name), v); err != nil && o.err == nil {
		o.err = err
	}
	return v
}

// WholeOr reads a whole number from least to most, or gives the default where the field is left out.
func (o *Object) WholeOr(name string, least, most, otherwise int) int {
	raw, ok := o.take(name)
	if !ok {
		return otherwise
	}
	var v float64
	if err := json.Unmarshal(raw, &v); err != nil || v != math.Trunc(v) || v < float64(least) || v > float64(most) {
		o.Fail(name, "expected a whole number from %d to %d, not %s", least, most, short(raw))
		return otherwise
	}
	return int(v)
}

// Whole reads a required whole number from least to most.
func (o *Object) Whole(name string, least, most int) int {
	if !o.Has(name) {
		o.Fail(name, "missing; expected a whole number from %d to %d", least, most)
	}
	return o.WholeOr(name, least, most, least)
}

// FlagOr reads true or false, or gives the default where the field is left out.
func (o *Object) FlagOr(name string, otherwise bool) bool {
	raw, ok := o.take(name)
	if !ok {
		return otherwise
	}
	var v bool
	if err := json.Unmarshal(raw, &v); err != nil {
		o.Fail(name, "expected true or false, not %s", short(raw))
	}
	return v
}

// Text reads a required text of at most that many characters.
func (o *Object) Text(name string, most int) string {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected a text")
		return ""
	}
	var v string
	if err := json.Unmarshal(raw, &v); err != nil {
		o.Fail(name, "expected a text, not %s", short(raw))
	} else if n := utf8.RuneCountInString(v); n > most {
		o.Fail(name, "expected at most %d characters, not %d", most, n)
	}
	return v
}

// Texts reads a required list of at most that many texts, of at most long characters each.
func (o *Object) Texts(name string, most, long int) []string {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected a list of texts")
		return nil
	}
	var list []string
	if err := json.Unmarshal(raw, &list); err != nil {
		o.Fail(name, "expected a list of texts, not %s", short(raw))
		return nil
	}
	if len(list) > most {
		o.Fail(name, "expected at most %d texts, not %d", most, len(list))
	}
	for _, text := range list {
		if n := utf8.RuneCountInString(text); n > long {
			o.Fail(name, "expected at most %d characters each, not %d", long, n)
		}
	}
	return list
}

// Numbers reads a required list of at most that many numbers.
func (o *Object) Numbers(name string, most int) []float64 {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected a list of numbers")
		return nil
	}
	var list []float64
	if err := json.Unmarshal(raw, &list); err != nil {
		o.Fail(name, "expected a list of numbers, not %s", short(raw))
		return nil
	}
	if len(list) > most {
		o.Fail(name, "expected at most %d numbers, not %d", most, len(list))
	}
	return list
}

// ChoiceOr reads one of a few words, or gives the default where the field is left out.
func (o *Object) ChoiceOr(name, otherwise string, choices ...string) string {
	raw, ok := o.take(name)
	if !ok {
		return otherwise
	}
	var v string
	if err := json.Unmarshal(raw, &v); err == nil {
		for _, c := range choices {
			if v == c {
				return v
			}
		}
	}
	o.Fail(name, "expected %s, not %s", oneOf(choices), short(raw))
	return otherwise
}

// Choice reads a required word out of a few.
func (o *Object) Choice(name string, choices ...string) string {
	if !o.Has(name) {
		o.Fail(name, "missing; expected %s", oneOf(choices))
	}
	return o.ChoiceOr(name, "", choices...)
}

func oneOf(choices []string) string {
	if len(choices) == 1 {
		return strconv.Quote(choices[0])
	}
	quoted := make([]string, len(choices))
	for i, c := range choices {
		quoted[i] = strconv.Quote(c)
	}
	return "one of " + strings.Join(quoted, ", ")
}

// Object opens a required object inside this one. Close it with its own Done; its refusal also counts here when handed
// to Keep.
func (o *Object) Object(name string) *Object {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected an object")
		return &Object{path: join(o.path, name), err: o.err}
	}
	return ParseAt(join(o.path, name), raw)
}

// Into reads a required value strictly into a Go value: fields that it does not have are refused.
func (o *Object) Into(name string, into any) error {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected a value")
		return o.err
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	err := d.Decode(into)
	if err == nil {
		return nil
	}
	path := join(o.path, name)
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return Refuse(join(path, kind.Field), "expected another value: %s", plain(err))
	}
	if _, field, ok := strings.Cut(err.Error(), "unknown field "); ok {
		return Refuse(path, "%s is not a field that is known here", field)
	}
	return Refuse(path, "expected a value (%s)", plain(err))
}

// List opens a required list of at most that many objects.
func (o *Object) List(name string, most int) []*Object {
	raw, ok := o.take(name)
	if !ok {
		o.Fail(name, "missing; expected a list of objects")
		return nil
	}
	var rows []json.RawMessage
	if err := json.Unmarshal(raw, &rows); err != nil {
		o.Fail(name, "expected a list of objects, not %s", short(raw))
		return nil
	}
	if len(rows) > most {
		o.Fail(name, "expected at most %d entries, not %d", most, len(rows))
		return nil
	}
	list := make([]*Object, len(rows))
	for i, row := range rows {
		list[i] = ParseAt(fmt.Sprintf("%s[%d]", join(o.path, name), i), row)
	}
	return list
}

// Keep takes over the refusal of an inner object or of a check outside; nil is ignored.
func (o *Object) Keep(err error) {
	if o.err == nil {
		o.err = err
	}
}

// Done returns the first refusal; with none, it refuses a field that nobody asked for.
func (o *Object) Done() error {
	if o.err != nil || len(o.fields) == 0 {
		return o.err
	}
	names := make([]string, 0, len(o.fields))
	for name := range o.fields {
		names = append(names, name)
	}
	sort.Strings(names)
	return Refuse(join(o.path, names[0]), "not a field that is known here")
}

func short(raw json.RawMessage) string {
	text := string(raw)
	if len(text) > 40 {
		return text[:40] + "…"
	}
	return text
}

// Under puts this object's path in front of a refusal that was made without it.
func (o *Object) Under(err error) error { return Under(o.path, err) }
