package rig

// SideView is a rig seen from the side, to scale, in metres: X is counted from the bag's axis away from the trainee, Y
// up from the floor.
type SideView struct {
	Shapes  []Segment `json:"shapes"`
	Handles []Handle  `json:"handles"`
	Top     float64   `json:"top"` // m, of the highest thing there is
}

// ShapeKind names what a shape of a side view is.
type ShapeKind string

// What a rig is made of.
const (
	Ceiling  ShapeKind = "ceiling"
	Board    ShapeKind = "board"
	CordLine ShapeKind = "cord"
	Chain    ShapeKind = "chain"
	Pole     ShapeKind = "pole"
	Ball     ShapeKind = "ball"     // round, about (X1, Y1)
	Drop     ShapeKind = "drop"     // a speed bag: hangs from (X1, Y1) to (X2, Y2)
	Barrel   ShapeKind = "cylinder" // upright, from (X1, Y1) to (X2, Y2)
	Base     ShapeKind = "base"
	Anchor   ShapeKind = "anchor"
	Wall     ShapeKind = "wall"
)

// Segment is a line or a body from (X1, Y1) to (X2, Y2), W wide.
type Segment struct {
	Kind ShapeKind `json:"kind"`
	X1   float64   `json:"x1"`
	Y1   float64   `json:"y1"`
	X2   float64   `json:"x2"`
	Y2   float64   `json:"y2"`
	W    float64   `json:"w"`
}

// Drag says how much a metre of dragging, up or away, adds to a field.
type Drag struct {
	Field string  `json:"field"`
	Per   float64 `json:"per"`
}

// Handle is a measure that can be dragged: a dimension line from (X1, Y1) to its knob at (X2, Y2). Field is of the
// rig's document, or of its place after "place.".
type Handle struct {
	Field string `json:"field"`
	Label string `json:"label"`
	DimensionLine
	Value float64 `json:"value"`
	Min   float64 `json:"min"` // of Value
	Max   float64 `json:"max"`
	Moves []Drag  `json:"moves"`
}

// DimensionLine leads from where a measure begins to its knob.
type DimensionLine struct {
	X1      float64 `json:"x1"`
	Y1      float64 `json:"y1"`
	X2      float64 `json:"x2"`
	Y2      float64 `json:"y2"`
	Upright bool    `json:"upright"` // it is dragged up and down, else to and fro
}

// upright is a line beside a bag, x from its axis; level leads out from it.
func upright(x, from, to float64) DimensionLine { return DimensionLine{x, from, x, to, true} }
func level(y, to float64) DimensionLine         { return DimensionLine{0, y, to, y, false} }

// walls draws the walls that were measured.
func (s *SideView) walls(p Place) {
	for _, w := range []struct {
		of       Field
		at, sign float64
	}{{walls[0], p.Beyond, 1}, {walls[2], p.Behind, -1}} {
		if w.at > 0 {
			x := w.sign * w.at
			s.Shapes = append(s.Shapes, Segment{Kind: Wall, X1: x, X2: x, Y2: s.Top})
			s.Handles = append(s.Handles, w.of.handle(w.at, level(0.12, x), 0.3, 6, Drag{w.of.Name, w.sign}))
		}
	}
}
