package input

import (
	"errors"
	"math"
	"testing"
)

var share = Limits{Min: 0, Max: 1, Unit: "m"}

func TestRefusalsNameTheField(t *testing.T) {
	read := func(doc string) error {
		o := Parse([]byte(doc))
		o.Number("n", share)
		o.NumberOr("m", Limits{Min: 0, Max: 2, Open: true}, 1)
		o.WholeOr("w", 1, 5, 3)
		o.FlagOr("f", true)
		o.ChoiceOr("c", "a", "a", "b")
		if o.Has("in") {
			in := o.Object("in")
			in.Number("x", share)
			o.Keep(in.Done())
		}
		if o.Has("rows") {
			for _, row := range o.List("rows", 2) {
				row.Number("x", share)
				o.Keep(row.Done())
			}
		}
		return o.Done()
	}
	for doc, field := range map[string]string{
		`{}`: "n", `{"n":2}`: "n", `{"n":"1"}`: "n", `{"n":null}`: "n", `{"n":-0.1}`: "n", `{"n":1e999}`: "n",
		`{"n":1,"m":0}`: "m", `{"n":1,"w":1.5}`: "w", `{"n":1,"w":9}`: "w", `{"n":1,"f":1}`: "f",
		`{"n":1,"c":"z"}`: "c",
		`{"n":1,"in":{}}`: "in.x", `{"n":1,"in":{"x":1,"y":2}}`: "in.y", `{"n":1,"in":7}`: "in", `{"n":1,"N":1}`: "N",
		`{"n":1,"rows":[{"x":1},{"x":5}]}`: "rows[1].x", `{"n":1,"rows":[{"x":1},{"x":1},{"x":1}]}`: "rows",
		`{"n":1,"rows":3}`: "rows",
		`[]`:               "", `{"n":1} {}`: "", `{`: "", `null`: "",
	} {
		var refused *Error
		if err := read(doc); !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%s: %v, want a refusal of %q", doc, err, field)
		}
	}
	if err := read(`{"n":0.5,"m":2,"w":5,"f":false,"c":"b","in":{"x":0},"rows":[{"x":1}]}`); err != nil {
		t.Error(err)
	}
}

func TestLimits(t *testing.T) {
	for _, v := range []float64{math.NaN(), math.Inf(1), math.Inf(-1), -1e-9, 1.001} {
		if share.Check("x", v) == nil {
			t.Errorf("%g passed %s", v, share)
		}
	}
	if err := Under("rig", Refuse("bagLength", "too long")); err.Error() != "rig.bagLength: too long" {
		t.Error(err)
	}
	plain := errors.New("other")
	if Under("rig", plain) != plain {
		t.Error("another error was changed")
	}
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(`{"n":1,"rows":[{"x":1}]}`))
	f.Fuzz(func(t *testing.T, doc []byte) {
		o := Parse(doc)
		v := o.Number("n", share)
		for _, row := range o.List("rows", 10) {
			row.Number("x", share)
			o.Keep(row.Done())
		}
		if o.Done() == nil && !(v >= 0 && v <= 1) {
			t.Errorf("%s: %g passed", doc, v)
		}
	})
}
