package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// DefaultRestitution is the share of its speed that a bag keeps at a contact with the board. Assumed; calibration
// replaces it.
const DefaultRestitution = 0.80

// windowReach (rad) is the angle on either side of the strike angle within which an inbound speed bag can be struck.
// Assumed.
const windowReach = 20 * math.Pi / 180

// SpeedBag is an air-filled bag that hangs on a swivel under a board, modelled as a thin spherical shell that swings
// freely between contacts and keeps Restitution of its speed at each contact. It loses speed nowhere else.
type SpeedBag struct {
	BagLength   float64 // m, swivel to bottom
	BagDiameter float64 // m, at the widest
	BagMass     float64 // kg
	SwivelDrop  float64 // m, pivot below the underside of the board
	Restitution float64 // share of speed kept at a contact
	BoardHeight float64 // m, underside of the board above the floor; 0 not measured
}

// Check refuses a bag whose measures are outside their limits or do not go together, by field.
func (b SpeedBag) Check() error {
	if err := speedTable.Check(b); err != nil {
		return err
	}
	return b.shape()
}

// shape refuses measures that cannot belong to one bag.
func (b SpeedBag) shape() error {
	r := b.BagDiameter / 2
	switch {
	case b.BagDiameter >= b.BagLength:
		return input.Refuse("bagDiameter",
			"expected less than the bag's length of %s, not %s: a speed bag is longer than wide",
			words.Metres(b.BagLength), words.Metres(b.BagDiameter))
	case b.SwivelDrop >= r:
		return input.Refuse("swivelDrop",
			"expected less than half the bag's diameter (%s), not %s: the widest part would never meet the board",
			words.Metres(r), words.Metres(b.SwivelDrop))
	case r-b.SwivelDrop >= b.arm():
		return input.Refuse("bagLength",
			"expected more than %s for this diameter and swivel: shorter, the bag touches the board as it hangs",
			words.Metres(2*r-b.SwivelDrop))
	case b.BoardHeight != 0 && b.Bottom() <= 0:
		return input.Refuse("boardHeight", "expected more than %s, so that the bag clears the floor",
			words.Metres(b.SwivelDrop+b.BagLength))
	}
	return nil
}

// arm is the distance d from the swivel to the widest point, the point that is struck.
func (b SpeedBag) arm() float64 { return b.BagLength - b.BagDiameter/2 }

// Inertia returns the moment of inertia about the swivel in kg·m²: a thin spherical shell, ⅔mR², shifted by d (parallel
// axis; inertia tables).
func (b SpeedBag) Inertia() float64 {
	r, d := b.BagDiameter/2, b.arm()
	return b.BagMass * (d*d + 2.0/3*r*r)
}

// pendulum is the free swing between two contacts.
func (b SpeedBag) pendulum() motion.Pendulum {
	return motion.Pendulum{Rate: math.Sqrt(b.BagMass * motion.Gravity * b.arm() / b.Inertia())}
}

// Contact returns the angle (rad) at which the bag's widest part meets the board: cos θc = (R − s)/d.
func (b SpeedBag) Contact() float64 {
	return math.Acos((b.BagDiameter/2 - b.SwivelDrop) / b.arm())
}

// Bottom returns the height in metres of the bag's lowest point above the floor, or NaN where the board's height was
// not measured.
func (b SpeedBag) Bottom() float64 {
	if b.BoardHeight == 0 {
		return math.NaN()
	}
	return b.BoardHeight - b.SwivelDrop - b.BagLength
}

// settle fills in and checks a meeting. Struck from the front, the bag comes back to the front only after an odd number
// of rebounds and to a hand behind it only after an even one (the parity rule).
func (b SpeedBag) settle(m Meeting) (Meeting, error) {
	if m.Rebounds < 1 || m.Rebounds > MaxRebounds {
		return m, input.Refuse("rebounds", "expected a whole number from 1 to %d, not %d", MaxRebounds, m.Rebounds)
	}
	if m.Angle == 0 {
		m.Angle = DefaultStrikeAngle
	}
	if !(m.Angle > 0 && m.Angle < b.Contact()) {
		return m, input.Refuse("strikeAngle",
			"expected above 0 and below %.1f degrees, where this bag meets its board, not %g", degrees(b.Contact()),
			degrees(m.Angle))
	}
	meets := Meets(m.Rebounds)
	if m.Face == "" {
		m.Face = meets
	}
	if m.Face != meets {
		return m, input.Refuse("face",
			"expected %q after %d %s: an odd count brings the bag back to the front, an even one to a hand behind it",
			meets, m.Rebounds, plural(m.Rebounds, "rebound"))
	}
	return m, nil
}

// Meets returns the face that the bag offers after a number of rebounds.
func Meets(rebounds int) Face {
	if rebounds%2 == 0 {
		return Behind
	}
	return Front
}

// flight is one cycle from a strike to the next meeting, seen from the struck face: launched at +angle, it meets the
// far board first. A strike from behind is the mirror image.
type flight struct {
	pendulum motion.Pendulum
	contact  float64   // rad
	angle    float64   // rad, of the strike
	bottoms  []float64 // rad/s at the lowest point, before the first contact and after each
}

// fly computes a cycle from u, the angular speed (rad/s) at the first contact. u = 0 is the softest strike that still
// reaches the board, as a limit.
func (b SpeedBag) fly(u float64, m Meeting) flight {
	f := flight{pendulum: b.pendulum(), contact: b.Contact(), angle: m.Angle}
	f.bottoms = make([]float64, m.Rebounds+1)
	for i := range f.bottoms {
		f.bottoms[i] = f.pendulum.BottomSpeed(f.contact, u)
		u *= b.Restitution
	}
	return f
}

// boards returns the times of the board contacts, and the time of the meeting.
func (f flight) boards() ([]float64, float64) {
	last := len(f.bottoms) - 1
	times := make([]float64, last)
	at := f.pendulum.TimeTo(f.contact, f.bottoms[0]) - f.pendulum.TimeTo(f.angle, f.bottoms[0])
	for i := range times {
		if i > 0 {
			at += 2 * f.pendulum.TimeTo(f.contact, f.bottoms[i])
		}
		times[i] = at
	}
	return times, at + f.pendulum.TimeTo(f.contact, f.bottoms[last]) - f.pendulum.TimeTo(f.angle, f.bottoms[last])
}

// inbound gives the bag's angular speed at the meeting and the time it stays within windowReach of the strike angle,
// never past the board.
func (f flight) inbound() (speed, window float64) {
	bottom := f.bottoms[len(f.bottoms)-1]
	from := math.Min(f.angle+windowReach, f.contact)
	return f.pendulum.SpeedAt(f.angle, bottom),
		f.pendulum.TimeTo(from, bottom) - f.pendulum.TimeTo(f.angle-windowReach, bottom)
}

// least is the launch (m/s) below which the bag does not reach its board.
func (b SpeedBag) least(angle float64) float64 {
	p := b.pendulum()
	return b.arm() * p.SpeedAt(angle, p.BottomSpeed(b.Contact(), 0))
}

// first is the angular speed at the first contact after a launch (m/s) at the strike angle; NaN when not reached.
func (b SpeedBag) first(launch, angle float64) float64 {
	p := b.pendulum()
	return math.Sqrt(math.Pow(p.BottomSpeed(angle, launch/b.arm()), 2) - math.Pow(p.BottomSpeed(b.Contact(), 0), 2))
}

// launchFor is the inverse of first.
func (b SpeedBag) launchFor(u, angle float64) float64 {
	p := b.pendulum()
	return b.arm() * p.SpeedAt(angle, p.BottomSpeed(b.Contact(), u))
}

// Return gives the bag's way back after a strike at launch m/s. A strike that does not reach the board is refused,
// naming launch; so are a face that parity forbids and a strike angle beyond the board.
func (b SpeedBag) Return(launch float64, m Meeting) (Return, error) {
	f, _, err := b.struck(launch, m)
	if err != nil {
		return Return{}, err
	}
	boards, at := f.boards()
	speed, window := f.inbound()
	return Return{At: at, Speed: speed * b.arm(), Window: window, Boards: boards}, nil
}

// MarshalJSON writes the document that Read reads.
func (b SpeedBag) MarshalJSON() ([]byte, error) { return speedTable.Document(Speed, b) }

// Kind of this rig.
func (SpeedBag) Kind() Kind { return Speed }

// Returns gives the one return that the meeting counts to: whoever lets it pass counts more rebounds.
func (b SpeedBag) Returns(launch float64, m Meeting, n int) ([]Return, error) {
	if n != 1 {
		return nil, input.Refuse("count", "expected 1 with a speed bag, not %d: count more rebounds instead", n)
	}
	r, err := b.Return(launch, m)
	return []Return{r}, err
}

// struck settles a meeting and computes the cycle of a strike at launch m/s.
func (b SpeedBag) struck(launch float64, m Meeting) (flight, Meeting, error) {
	m, err := b.settle(m)
	if err != nil {
		return flight{}, m, err
	}
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return flight{}, m, err
	}
	u := b.first(launch, m.Angle)
	if !(u > 0) {
		return flight{}, m, input.Refuse("launch",
			"expected more than %s: struck any softer, this bag does not reach its board",
			words.Speed(b.least(m.Angle)).To(2))
	}
	return b.fly(u, m), m, nil
}

// Trace samples one cycle from a strike at launch m/s to the meeting: per points a crossing from board to board, evenly
// in angle. For a strike from behind the picture is mirrored by the caller's choice of sign; here it starts at +angle.
func (b SpeedBag) Trace(launch float64, m Meeting, per int) ([]TracePoint, error) {
	f, _, err := b.struck(launch, m)
	if err != nil {
		return nil, err
	}
	boards, meet := f.boards()
	var points []TracePoint
	last := len(f.bottoms) - 1
	from, start, sign := f.angle, 0.0, 1.0
	for i, bottom := range f.bottoms {
		to, end := f.contact, meet
		if i < last {
			end = boards[i]
		} else {
			to = -f.angle
		}
		n := max(2, int(math.Ceil(float64(per)*(to-from)/(2*f.contact))))
		for k := range n {
			theta := from + (to-from)*float64(k)/float64(n)
			at := start + f.pendulum.TimeTo(theta, bottom) - f.pendulum.TimeTo(from, bottom)
			points = append(points, TracePoint{At: at, Swing: sign * theta / f.contact})
		}
		from, start, sign = -f.contact, end, -sign
	}
	// The loop has turned the sign once more, past the meeting at −angle of the last crossing.
	return append(points, TracePoint{At: meet, Swing: sign * f.angle / f.contact}), nil
}

// Through samples the way of the bag past the meeting when nobody strikes it, as far as its window reaches: points
// evenly in angle, At counted from the meeting.
func (b SpeedBag) Through(launch float64, m Meeting, points int) ([]TracePoint, error) {
	f, m, err := b.struck(launch, m)
	if err != nil {
		return nil, err
	}
	sign := 1.0
	if m.Face == Behind {
		sign = -1
	}
	bottom := f.bottoms[len(f.bottoms)-1]
	list := make([]TracePoint, points)
	for k := range list {
		theta := f.angle - windowReach*float64(k)/float64(max(1, points-1))
		at := f.pendulum.TimeTo(f.angle, bottom) - f.pendulum.TimeTo(theta, bottom)
		list[k] = TracePoint{At: at, Swing: sign * theta / f.contact}
	}
	return list, nil
}

func degrees(rad float64) float64 { return rad * 180 / math.Pi }

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}
