package document

import (
	"fmt"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Person is somebody who trains, with what was found out about them, cautioned and decided; lengths in metres.
type Person struct {
	Key      string          `json:"key,omitempty" maxLength:"40"`
	Name     string          `json:"name" minLength:"1" maxLength:"120"`
	Stance   combo.Stance    `json:"stance"`
	Band     trainee.Band    `json:"band"`
	AgeBand  trainee.AgeBand `json:"ageBand"`
	Height   *float64        `json:"height,omitempty" doc:"m"`
	Reach    *float64        `json:"reach,omitempty" doc:"m"`
	Eye      *float64        `json:"eye,omitempty" doc:"m above the floor, in stance"`
	Mouth    *float64        `json:"mouth,omitempty" doc:"m above the floor, in stance"`
	Chin     *float64        `json:"chin,omitempty" doc:"m above the floor, in stance"`
	Notes    string          `json:"notes,omitempty" maxLength:"4000"`
	Goals    string          `json:"goals,omitempty" maxLength:"4000"`
	Dominant combo.Side      `json:"dominant,omitempty" doc:"left out where it follows the stance"`
	Weak     combo.Hand      `json:"weak,omitempty" enum:",lead,rear" doc:"the weaker side"`
	Sport    trainee.Sport   `json:"sport,omitempty"`
	School   ladder.School   `json:"school,omitempty"`
	Weeks    *Weeks          `json:"weeks,omitempty" doc:"how their weeks build up, where they are planned"`
	Archived bool            `json:"archived,omitempty"`

	Evidence  []Evidence `json:"evidence" doc:"what was found out about them"`
	Cautions  []Caution  `json:"cautions"`
	Decisions []Decision `json:"decisions" doc:"of their coach, on the ladder"`
}

// Weeks plans the volume of somebody's coming weeks.
type Weeks struct {
	From   string `json:"from" format:"date"`
	Days   []int  `json:"days" minItems:"1" maxItems:"7" doc:"of the week, 0 for Sunday"`
	Rounds int    `json:"rounds" doc:"of the first session"`
	Most   int    `json:"most"`
}

// Evidence is a figure that was found out about somebody.
type Evidence struct {
	Figure trainee.Figure `json:"figure"`
	Bag    rig.Kind       `json:"bag,omitempty" doc:"kind of bag; left out where none was struck"`
	Value  float64        `json:"value"`
	Spread float64        `json:"spread" minimum:"0"`
	Origin trainee.Origin `json:"origin"`
	Bound  bool           `json:"bound,omitempty" doc:"it is at least so much"`
	Note   string         `json:"note,omitempty" maxLength:"400"`
	At     time.Time      `json:"at"`
}

// Caution names something that somebody must be, or had to be, spared.
type Caution struct {
	Kind     caution.Type `json:"kind"`
	Note     string       `json:"note,omitempty" maxLength:"400"`
	SetBy    string       `json:"setBy" maxLength:"120" doc:"name of the coach"`
	At       time.Time    `json:"at"`
	LiftedBy string       `json:"liftedBy,omitempty" maxLength:"120" doc:"on whose word"`
	LiftedAt *time.Time   `json:"liftedAt,omitempty"`
}

// Decision is a coach's decision on a proposal.
type Decision struct {
	Bag    rig.Kind      `json:"bag" doc:"kind of bag"`
	Rung   string        `json:"rung" minLength:"1" maxLength:"60"`
	Choice ladder.Choice `json:"choice"`
	Reason string        `json:"reason,omitempty" maxLength:"400"`
	Coach  string        `json:"coach" maxLength:"120" doc:"name"`
	At     time.Time     `json:"at"`
}

// Most of each that is read of a person.
const mostOfEach = 100_000

func place(what string, i int) string { return fmt.Sprintf("%s[%d]", what, i) }

func readPerson(o *input.Object) (Person, error) {
	p := Person{Key: textOr(o, "key", 40), Name: name(o), Stance: choice(o, "stance", combo.Stance("").Values()),
		Band:    choice(o, "band", trainee.Bands),
		AgeBand: trainee.AgeBand(o.ChoiceOr("ageBand", string(trainee.Adult), texts(trainee.AgeBand("").Values())...)),
		Notes:   textOr(o, "notes", 4000), Goals: textOr(o, "goals", 4000),
		Dominant: choice(o, "dominant", combo.Side("").Values()),
		Weak:     choice(o, "weak", []combo.Hand{"", combo.Lead, combo.Rear}),
		Sport:    choice(o, "sport", trainee.Sport("").Values()), School: choice(o, "school",
			ladder.School("").Values()),
		Archived: o.FlagOr("archived", false)}
	if p.Sport == "" {
		p.Sport = trainee.Boxing
	}
	for _, f := range rig.BodyFields() {
		if into := map[string]**float64{"height": &p.Height, "reach": &p.Reach, "eye": &p.Eye, "mouth": &p.Mouth,
			"chin": &p.Chin}[f.Name]; into != nil && o.Has(f.Name) {
			v := o.Number(f.Name, f.Limits)
			*into = &v
		}
	}
	o.Keep(o.Under(p.Body().Check()))
	if o.Has("weeks") {
		var w Weeks
		o.Keep(o.Into("weeks", &w))
		_, err := w.Plan()
		o.Keep(o.Under(input.Under("weeks", err)))
		p.Weeks = &w
	}
	p.Evidence = list(o, "evidence", mostOfEach, readEvidence)
	p.Cautions = list(o, "cautions", mostOfEach, readCaution)
	p.Decisions = list(o, "decisions", mostOfEach, readDecision)
	return p, o.Done()
}

// Body returns the measures of a person that matter to the height of a bag.
func (p Person) Body() rig.Body {
	or := func(v *float64) float64 {
		if v == nil {
			return 0
		}
		return *v
	}
	return rig.Body{Height: or(p.Height), Reach: or(p.Reach), Eye: or(p.Eye), Mouth: or(p.Mouth), Chin: or(p.Chin)}
}

// Plan is the weeks as the ladder has them; what cannot be is refused by its field.
func (w Weeks) Plan() (ladder.Weeks, error) {
	from, err := time.Parse(time.DateOnly, w.From)
	if err != nil {
		return ladder.Weeks{}, input.Refuse("from", "expected a day such as 2026-03-02, not %q", w.From)
	}
	out := ladder.Weeks{From: from, Rounds: w.Rounds, Most: w.Most}
	for _, d := range w.Days {
		out.Days = append(out.Days, time.Weekday(d))
	}
	return out, out.Check()
}

func texts[T ~string](values []T) []string {
	list := make([]string, len(values))
	for i, v := range values {
		list[i] = string(v)
	}
	return list
}

func readEvidence(o *input.Object) (Evidence, error) {
	anything := input.Limits{Min: -1e6, Max: 1e6}
	e := Evidence{Figure: trainee.Figure(o.Choice("figure", texts(trainee.Figures)...)),
		Value: o.Number("value", anything), Spread: o.Number("spread", input.Limits{Max: 1e6}),
		Origin: trainee.Origin(o.Choice("origin", texts(trainee.Origin("").Values()[1:])...)),
		Bound:  o.FlagOr("bound", false), Note: textOr(o, "note", 400), At: moment(o, "at")}
	if o.Has("bag") {
		e.Bag = kindOf(o, "bag")
	}
	return e, o.Done()
}

func readCaution(o *input.Object) (Caution, error) {
	c := Caution{Kind: caution.Type(o.Choice("kind", texts(caution.Kinds)...)), Note: textOr(o, "note", 400),
		SetBy: o.Text("setBy", 120), At: moment(o, "at"), LiftedBy: textOr(o, "liftedBy", 120)}
	if at := moment(o, "liftedAt"); !at.IsZero() {
		c.LiftedAt = &at
	}
	if (c.LiftedAt == nil) != (c.LiftedBy == "") {
		o.Fail("liftedBy", "expected both, on whose word it was lifted and when, or neither")
	}
	return c, o.Done()
}

func readDecision(o *input.Object) (Decision, error) {
	d := Decision{Bag: kindOf(o, "bag"), Rung: o.Text("rung", 60),
		Choice: ladder.Choice(o.Choice("choice", texts(ladder.Choice("").Values())...)),
		Reason: textOr(o, "reason", 400), Coach: o.Text("coach", 120), At: moment(o, "at")}
	if d.Rung == "" {
		o.Fail("rung", "expected the key of a rung")
	}
	return d, o.Done()
}
