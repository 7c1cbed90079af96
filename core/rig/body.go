package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/words"
)

// Body holds the measures of a person, in metres, that a rig's height and the room around it depend on; 0 where not
// measured. Eye, Mouth and Chin are heights above the floor in stance.
type Body struct {
	Height, Reach    float64
	Eye, Mouth, Chin float64
}

// Limits of a body's measures, in m: children and the tallest.
var (
	bodyHeight = input.Limits{Min: 0.8, Max: 2.4, Unit: "m"}
	bodyReach  = input.Limits{Min: 0.6, Max: 2.6, Unit: "m"}
	bodyPoint  = input.Limits{Min: 0.5, Max: 2.3, Unit: "m"} // a height in stance
)

// bodyTable is all that is measured of a person.
var bodyTable = Table[Body]{
	{Field{Name: "height", Label: "Height", Quantity: AsHeight, Slider: Slider{bodyHeight.Min, bodyHeight.Max, 0.01},
		Limits: bodyHeight, Optional: true}, func(b *Body) any { return &b.Height }},
	{Field{Name: "reach", Label: "Reach, fingertip to fingertip", Quantity: AsHeight,
		Slider: Slider{bodyReach.Min, bodyReach.Max, 0.01}, Limits: bodyReach, Optional: true},
		func(b *Body) any { return &b.Reach }},
	{Field{Name: "eye", Label: "Eyes above the floor, in stance", Quantity: AsHeight,
		Slider: Slider{bodyPoint.Min, bodyPoint.Max, 0.01}, Limits: bodyPoint, Optional: true},
		func(b *Body) any { return &b.Eye }},
	{Field{Name: "mouth", Label: "Mouth, in stance", Quantity: AsHeight,
		Slider: Slider{bodyPoint.Min, bodyPoint.Max, 0.01}, Limits: bodyPoint, Optional: true},
		func(b *Body) any { return &b.Mouth }},
	{
		Field{
			Name:     "chin",
			Label:    "Chin, in stance",
			Quantity: AsHeight,
			Slider:   Slider{bodyPoint.Min, bodyPoint.Max, 0.01},
			Limits:   bodyPoint,
			Optional: true,
		},
		func(b *Body) any { return &b.Chin },
	},
}

// BodyFields lists what is measured of a person.
func BodyFields() []Field { return listed(bodyTable.Fields()) }

// Heights of points of the body and lengths of its parts as shares of the standing height: Drillis & Contini, Body
// Segment Parameters (1966), the table in common use.
const (
	eyeShare, chinShare, shoulderShare = 0.936, 0.870, 0.818
	hipShare, kneeShare                = 0.530, 0.285
	shouldersShare                     = 0.259 // across
	upperArmShare, forearmShare        = 0.186, 0.146
	handShare                          = 0.108
)

// Assumed, where the table is silent.
const (
	mouthPart = 1.0 / 3 // of the way from the chin to the eyes
	stanceDip = 0.04    // of the height: what bent knees and feet apart take off it
	knuckles  = 0.5     // of the hand's length, from the wrist to the front of a fist
	turned    = math.Pi / 4
)

// Known says whether there is a height to reckon from.
func (b Body) Known() bool { return b.Height > 0 }

// Check refuses measures outside their limits or out of order, by field.
func (b Body) Check() error {
	if err := bodyTable.Check(b); err != nil {
		return err
	}
	above := b.Height
	for _, p := range []struct {
		field string
		value float64
	}{{"eye", b.Eye}, {"mouth", b.Mouth}, {"chin", b.Chin}} {
		if p.value == 0 {
			continue
		}
		if above > 0 && p.value >= above {
			return input.Refuse(p.field, "expected less than the point above it, %s, not %s", words.Metres(above),
				words.Metres(p.value))
		}
		above = p.value
	}
	return nil
}

// BodyHeights are heights above the floor (m).
type BodyHeights struct {
	Crown    float64 `json:"crown"`
	Eye      float64 `json:"eye"`
	Mouth    float64 `json:"mouth"`
	Chin     float64 `json:"chin"`
	Shoulder float64 `json:"shoulder"`
	Hip      float64 `json:"hip"`
	Knee     float64 `json:"knee"`
}

// InStance gives the heights in a boxing stance: measured ones where there are any, the others by proportion, less what
// the stance takes off.
func (b Body) InStance() BodyHeights { return b.points(stanceDip * b.Height) }

// Upright gives the heights standing square, as at a speed bag.
func (b Body) Upright() BodyHeights { return b.points(0) }

func (b Body) points(dip float64) BodyHeights {
	h := b.Height
	or := func(measured, share float64) float64 {
		if measured > 0 {
			return measured + stanceDip*h - dip // it was measured in stance
		}
		return share*h - dip
	}
	p := BodyHeights{
		Crown: h - dip, Eye: or(b.Eye, eyeShare), Chin: or(b.Chin, chinShare),
		Shoulder: shoulderShare*h - dip, Hip: hipShare*h - dip, Knee: kneeShare*h - dip/2,
	}
	p.Mouth = p.Chin + mouthPart*(p.Eye-p.Chin)
	if b.Mouth > 0 {
		p.Mouth = or(b.Mouth, 0)
	}
	return p
}

// span is the reach where it is known; about the height elsewhere, as with most people.
func (b Body) span() float64 {
	if b.Reach > 0 {
		return b.Reach
	}
	return b.Height
}

// Straight returns the distance (m) in front of the head's plumb line at which a straight punch ends in stance: the arm
// to its knuckles, and the half of the shoulders that turns in (by 45°, assumed). Arms are taken to be as long as the
// reach has it.
func (b Body) Straight() float64 {
	return (upperArmShare+forearmShare+knuckles*handShare)*b.span() + shouldersShare/2*b.Height*math.Sin(turned)
}

// Forearm is the length from the elbow to the knuckles.
func (b Body) Forearm() float64 { return (forearmShare + knuckles*handShare) * b.span() }
