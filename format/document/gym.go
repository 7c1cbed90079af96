package document

import (
	"time"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/session"
	"melodromos/core/timetable"
	"melodromos/core/words"
)

// Gym is all that a gym has put in, but for its log, which goes as tables, and for whoever signs in.
type Gym struct {
	Settings Settings  `json:"settings"`
	Bags     []Bag     `json:"bags"`
	People   []Person  `json:"people"`
	Drills   []Drill   `json:"drills"`
	Given    []Given   `json:"given" doc:"who has which drill on which bag"`
	Sessions []Session `json:"sessions"`
	Dates    []Date    `json:"dates" doc:"when classes are held"`
}

// Settings are a gym's own.
type Settings struct {
	Name     string           `json:"name" minLength:"1" maxLength:"120"`
	Zone     string           `json:"zone" maxLength:"64" doc:"of its clock, by its IANA name"`
	Units    words.Units      `json:"units"`
	Borders  rig.Borders      `json:"borders" doc:"between cords too slack and too tight, in s of the half-power return"`
	Kicks    bool             `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Punches  combo.PunchNames `json:"punches" doc:"how they are called"`
	Slips    combo.SlipNames  `json:"slips" doc:"called by lead and rear, or by inside and outside"`
	Gate     ladder.Gate      `json:"gate" doc:"of a rung, before the next"`
	GetReady float64          `json:"getReady" doc:"s, from the last press to the bell"`
}

// Session is one of the gym's sessions.
type Session struct {
	Key      string          `json:"key,omitempty" maxLength:"40"`
	Session  session.Session `json:"session"`
	Archived bool            `json:"archived,omitempty"`
}

// Given gives a drill to a person on a bag, by their keys, with what it leaves open.
type Given struct {
	Drill    string         `json:"drill" maxLength:"40"`
	Person   string         `json:"person" maxLength:"40"`
	Bag      string         `json:"bag" maxLength:"40"`
	Settings drill.Settings `json:"settings"`
	Eased    level.OneThing `json:"eased,omitempty" maxLength:"400" doc:"what is easier than the rung has it"`
	Own      bool           `json:"own,omitempty" doc:"the coach has set it: it is left as it is"`
	At       time.Time      `json:"at"`
}

// Date is a class that is to be held, with the session that is done in it.
type Date struct {
	timetable.Date
	Session string `json:"session,omitempty" maxLength:"40" doc:"key of one of the sessions"`
}

// Most of each that a document holds.
const (
	mostBags     = 2000
	mostPeople   = 20_000
	mostDrills   = 50_000
	mostGiven    = 200_000
	mostSessions = 5000
	mostDates    = 5000
)

func list[T any](o *input.Object, field string, most int, read func(*input.Object) (T, error)) []T {
	out := []T{}
	if !o.Has(field) {
		return out
	}
	for _, inner := range o.List(field, most) {
		v, err := read(inner)
		o.Keep(err)
		if err != nil {
			break
		}
		out = append(out, v)
	}
	return out
}

// readGym reads a gym whose lists were read before.
func readGym(o *input.Object, g Gym) (Gym, error) {
	var err error
	g.Settings, err = readSettings(o.Object("settings"))
	o.Keep(err)
	if err := o.Done(); err != nil {
		return g, err
	}
	return g, o.Under(g.refers())
}

func readSettings(o *input.Object) (Settings, error) {
	s := Settings{Name: name(o), Zone: o.Text("zone", 64), Units: words.Units(o.Choice("units", "metric", "imperial")),
		Kicks: o.FlagOr("kicks", false), Punches: choice(o, "punches", combo.PunchNames("").Values()),
		Slips: choice(o, "slips", combo.SlipNames("").Values()), GetReady: o.NumberOr("getReady", drill.GetReady, 10)}
	_, err := timetable.Zone("zone", s.Zone)
	o.Keep(o.Under(err))
	for field, into := range map[string]any{"borders": &s.Borders, "gate": &s.Gate} {
		o.Keep(o.Into(field, into))
	}
	o.Keep(o.Under(input.Under("borders", s.Borders.Check())))
	o.Keep(o.Under(input.Under("gate", s.Gate.Check())))
	return s, o.Done()
}

// choice reads one of the values of an enum; the first where it is left out.
func choice[T ~string](o *input.Object, field string, values []T) T {
	names := make([]string, len(values))
	for i, v := range values {
		names[i] = string(v)
	}
	return T(o.ChoiceOr(field, names[0], names...))
}

func readOwnSession(o *input.Object) (Session, error) {
	s := Session{Key: textOr(o, "key", 40), Archived: o.FlagOr("archived", false)}
	var err error
	s.Session, err = readSession(o, "session")
	o.Keep(err)
	return s, o.Done()
}

func readGiven(o *input.Object) (Given, error) {
	g := Given{Drill: o.Text("drill", 40), Person: o.Text("person", 40), Bag: o.Text("bag", 40),
		Eased: level.ReadOneThing(textOr(o, "eased", 400)), Own: o.FlagOr("own", false), At: moment(o, "at")}
	if o.Has("settings") {
		o.Keep(o.Into("settings", &g.Settings))
	}
	return g, o.Done()
}

func readDate(o *input.Object) (Date, error) {
	d := Date{Session: textOr(o, "session", 40), Date: timetable.Date{Name: name(o), Day: o.Text("day", 10),
		At: o.Text("at", 5), Minutes: o.Whole("minutes", 0, 10_000), Weekly: o.FlagOr("weekly", false),
		Until: textOr(o, "until", 10), Skipped: []string{}, Note: textOr(o, "note", 400)}}
	if o.Has("skipped") {
		d.Skipped = o.Texts("skipped", 400, 10)
	}
	o.Keep(o.Under(d.Check()))
	return d, o.Done()
}

// refers refuses a reference to nothing, and a key that stands twice.
func (g Gym) refers() error {
	keys := map[string]string{}
	var twice error
	add := func(what string, i int, key string) {
		if _, there := keys[key]; there && key != "" && twice == nil {
			twice = input.Refuse(place(what, i)+".key", "expected a key of its own, and %q is that of another", key)
		}
		keys[key] = what
	}
	for i, b := range g.Bags {
		add("bags", i, b.Key)
	}
	for i, p := range g.People {
		add("people", i, p.Key)
	}
	for i, d := range g.Drills {
		add("drills", i, d.Key)
	}
	for i, s := range g.Sessions {
		add("sessions", i, s.Key)
	}
	if twice != nil {
		return twice
	}
	for i, v := range g.Given {
		for _, ref := range []struct{ field, key, of string }{{"drill", v.Drill, "drills"}, {"person", v.Person,
			"people"},
			{"bag", v.Bag, "bags"}} {
			if keys[ref.key] != ref.of || ref.key == "" {
				return input.Refuse(place("given", i)+"."+ref.field, "expected the key of one of the %s, not %q",
					ref.of,
					ref.key)
			}
		}
	}
	for i, d := range g.Dates {
		if d.Session != "" && keys[d.Session] != "sessions" {
			return input.Refuse(place("dates", i)+".session", "expected the key of one of the sessions, not %q", d.Session)
		}
	}
	return nil
}
