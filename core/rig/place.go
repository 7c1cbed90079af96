package rig

import (
	"slices"
	"strings"

	"melodromos/core/input"
)

// Place describes where a rig is mounted, the room around it, and its use: all that is not a measure of the bag itself.
// Every field may be left out; 0 and "" mean not measured, or the first of the choices. Lengths are in metres, the room
// is counted from the bag's axis.
type Place struct {
	LowerAnchor  float64 // m above the floor, of a double-end bag's lower cord
	SpringHeight float64 // m above the floor, of a reflex bag's spring
	BaseMass     float64 // kg, a reflex bag's base as filled
	BaseWidth    float64 // m, across that base
	RatedLoad    float64 // kg, as it stands on the weakest part of the mount
	PowerCap     float64 // m/s of the fist, where the maker allows no power
	Beyond       float64 // m to the wall behind the bag
	Beside       float64 // m to the nearer wall at its side
	Behind       float64 // m to the wall behind the trainee
	Anchor       Anchorage
	Purpose      UsedFor
	School       HeightSchool
	Stand        Stand
	Plane        SwingPlane
	Made         Made
	Steadied     Steadied
	Kicks        bool // kicks and knees are trained
}

// What a place may say in words. The first of each is taken where it says nothing.
type (
	Anchorage    string // what the bag is anchored in
	UsedFor      string // what it is used for
	HeightSchool string // at which height a speed bag or a slip bag hangs
	Stand        string // where a slip bag's trainee stands
	SwingPlane   string // in which a slip bag swings
	Made         string // what hangs there
	Steadied     string // whether the bag is steadied by hand
)

const (
	InStructure  Anchorage = "structure"
	OnFrame      Anchorage = "frame"
	StickOn      Anchorage = "stickOn"
	LightFitting Anchorage = "lightFitting"
	OnPipe       Anchorage = "pipe"
	OnDoor       Anchorage = "door"

	ForCombinations UsedFor = "combinations" // a double-end bag
	ForHeadMovement UsedFor = "headMovement"
	LightHits       UsedFor = "lightHits" // a slip bag
	Obstacle        UsedFor = "obstacle"

	UsualHeight  HeightSchool = "usual"
	ForShoulders HeightSchool = "shoulders"
	HeadHeight   HeightSchool = "head"

	AtLowPoint Stand = "lowPoint"
	AtTurn     Stand = "turn"

	Toward SwingPlane = "toward"
	Across SwingPlane = "across"

	Bag      Made = "bag"
	SoftBall Made = "softBall"
	Bottle   Made = "bottle"   // to be dodged and never hit
	TwoLobed Made = "twoLobed" // a double-end ball of two halves

	ToStartAgain Steadied = "restart" // only to start again
	NeverByHand  Steadied = "never"
	AsFraming    Steadied = "framing" // as a move of its own, in rhythm, when advanced
)

// places is the table of a place's fields, for every kind of bag.
var places = optional(Table[Place]{
	{Field{Name: "lowerAnchor", Limits: input.Limits{Min: 0, Max: 20, Unit: "m"}},
		func(p *Place) any { return &p.LowerAnchor }},
	{Field{Name: "springHeight", Limits: input.Limits{Min: 0, Max: 2, Unit: "m"}},
		func(p *Place) any { return &p.SpringHeight }},
	{Field{Name: "baseMass", Limits: input.Limits{Min: 0, Max: 500, Unit: "kg"}},
		func(p *Place) any { return &p.BaseMass }},
	{Field{Name: "baseWidth", Limits: input.Limits{Min: 0, Max: 2, Unit: "m"}},
		func(p *Place) any { return &p.BaseWidth }},
	{Field{Name: "ratedLoad", Limits: input.Limits{Min: 0, Max: 5000, Unit: "kg"}},
		func(p *Place) any { return &p.RatedLoad }},
	{Field{Name: "powerCap", Limits: input.Limits{Min: 0, Max: 30, Unit: "m/s"}},
		func(p *Place) any { return &p.PowerCap }},
	{Field{Name: "beyond", Limits: input.Limits{Min: 0, Max: 20, Unit: "m"}}, func(p *Place) any { return &p.Beyond }},
	{Field{Name: "beside", Limits: input.Limits{Min: 0, Max: 20, Unit: "m"}}, func(p *Place) any { return &p.Beside }},
	{Field{Name: "behind", Limits: input.Limits{Min: 0, Max: 20, Unit: "m"}}, func(p *Place) any { return &p.Behind }},
	{Field{Name: "anchor"}, func(p *Place) any { return (*string)(&p.Anchor) }},
	{Field{Name: "purpose"}, func(p *Place) any { return (*string)(&p.Purpose) }},
	{Field{Name: "school"}, func(p *Place) any { return (*string)(&p.School) }},
	{Field{Name: "stand"}, func(p *Place) any { return (*string)(&p.Stand) }},
	{Field{Name: "plane"}, func(p *Place) any { return (*string)(&p.Plane) }},
	{Field{Name: "made"}, func(p *Place) any { return (*string)(&p.Made) }},
	{Field{Name: "steadied"}, func(p *Place) any { return (*string)(&p.Steadied) }},
	{Field{Name: "kicks"}, func(p *Place) any { return &p.Kicks }},
})

func optional(t Table[Place]) Table[Place] {
	for i := range t {
		t[i].Optional = true
	}
	return t
}

// ofPlace prefixes the names of a place's fields where they stand beside a rig's.
const ofPlace = "place."

// PlaceTable is all that a place may hold, with the words that any kind of bag has a use for.
func PlaceTable() Table[Place] {
	list := slices.Clone(places)
	for i := range list {
		for _, m := range models {
			for _, f := range slices.Concat(m.Measures, m.Around) {
				if f.Name != ofPlace+list[i].Name {
					continue
				}
				list[i].Quantity, list[i].Label = f.Quantity, f.Label
				for _, o := range f.Options {
					if !slices.ContainsFunc(list[i].Options,
						func(known Option) bool { return known.Value == o.Value }) {
						list[i].Options = append(list[i].Options, o)
					}
				}
			}
		}
	}
	return list
}

// around is a measure of a place as a kind of bag has it.
func around(name, label string, as Quantity, offer Slider, help string) Field {
	c, ok := places.find(name)
	if !ok {
		panic("rig: a place has no " + name)
	}
	c.Name, c.Label, c.Quantity, c.Slider, c.Help = ofPlace+name, label, as, offer, help
	return c.Field
}

// choice returns a field that holds one of several words.
func choice(name, label, help string, options ...Option) Field {
	f := around(name, label, AsWord, Slider{}, help)
	f.Options = options
	return f
}

func option[S ~string](value S, text string) Option { return Option{string(value), text} }

// What most kinds are asked about their place.
var (
	anchoredIn = choice("anchor", "Anchored", "", option(InStructure, "In structure"), option(OnFrame, "On a frame"),
		option(StickOn, "Stick-on hook"),
		option(LightFitting, "Light fitting"), option(OnPipe, "Pipe"), option(OnDoor, "Door"))
	ratedLoad = around("ratedLoad", "Rated load of the weakest part", AsKilograms, Slider{0, 500, 1},
		"Hook, shackle or swivel: what is stamped on it. Cancel blank if unknown.")
	walls = []Field{
		around("beyond", "To the wall behind the bag", AsHeight, Slider{0, 5, 0.05},
			"From the bag’s middle. Cancel blank if not measured."),
		around("beside", "To the nearer wall at its side", AsHeight, Slider{0, 5, 0.05}, ""),
		around("behind", "To the wall behind the trainee", AsHeight, Slider{0, 5, 0.05}, ""),
	}
	wallsAndCap = append(slices.Clone(walls), around("powerCap", "Greatest fist speed the maker allows", AsSpeed,
		Slider{0, 15, 0.5}, "Cancel blank if there is none."))
)

// ReadPlace reads the document of a place.
func ReadPlace(o *input.Object) (Place, error) {
	var p Place
	PlaceTable().Read(o, &p)
	return p, o.Done()
}

// MarshalJSON writes the document that ReadPlace reads.
func (p Place) MarshalJSON() ([]byte, error) { return places.Document("", p) }

// DefaultSpringHeight (m) is taken for the base of a reflex bag that nobody measured. Assumed.
const DefaultSpringHeight = 0.35

// spring is the height of a reflex bag's spring.
func (p Place) spring() float64 {
	if p.SpringHeight > 0 {
		return p.SpringHeight
	}
	return DefaultSpringHeight
}

// ByHand says whether a bag of that kind is steadied by hand here; where nothing is set, the kind's default.
func (p Place) ByHand(k Kind) Steadied {
	if p.Steadied != "" {
		return p.Steadied
	}
	for _, f := range k.Model().Around {
		if f.Name == ofPlace+"steadied" {
			return Steadied(f.Options[0].Value)
		}
	}
	return NeverByHand
}

// Apply sets measures anew and gives the rig and the place that come of it. A field that neither knows, or a value that
// makes the rig impossible, is refused.
func Apply(r Rig, p Place, settings []Setting) (Rig, Place, error) {
	changed, moved, m := r, p, r.Kind().Model()
	for _, s := range settings {
		known := false
		if name, at := strings.CutPrefix(s.Field, ofPlace); at {
			known = places.Set(&moved, name, s.To)
		} else {
			changed, known = m.set(changed, s.Field, s.To)
		}
		if !known {
			return r, p, input.Refuse(s.Field, "not a field that is known here")
		}
	}
	if err := changed.Check(); err != nil {
		return r, p, err
	}
	if err := PlaceTable().Check(moved); err != nil {
		return r, p, input.Under("place", err)
	}
	return changed, moved, nil
}
