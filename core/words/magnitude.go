package words

import (
	"math"
	"strconv"
	"strings"
)

// Magnitude is a figure with its unit, which is put into words where it is known who reads it.
type Magnitude struct {
	Value float64
	Unit  string // "m", "m/s" or "kg"; any other is the same in both systems

	decimals int // +1; 0 for six figures
}

// Metres is a length.
func Metres(v float64) Magnitude { return Magnitude{Value: v, Unit: "m"} }

// Speed is a speed in m/s.
func Speed(v float64) Magnitude { return Magnitude{Value: v, Unit: "m/s"} }

// The international pound (exact, 1959), in kg.
const pound = 0.45359237

// To is the same written with so many decimals in SI units.
func (m Magnitude) To(decimals int) Magnitude {
	m.decimals = decimals + 1
	return m
}

// String writes it in SI units, with six figures at most.
func (m Magnitude) String() string { return m.In(Metric) }

// In writes it for somebody who reads units of a system.
func (m Magnitude) In(u Units) string {
	if u == Imperial {
		switch m.Unit {
		case "m":
			return u.Length(m.Value)
		case "m/s":
			return strconv.FormatFloat(m.Value/foot, 'f', 1, 64) + " ft/s"
		case "kg":
			return Trimmed(m.Value/pound) + " lb"
		}
	}
	figure := Figure(m.Value)
	if m.decimals > 0 {
		figure = strconv.FormatFloat(m.Value, 'f', m.decimals-1, 64)
	}
	return strings.TrimSuffix(figure+" "+m.Unit, " ")
}

// Range writes it and another of its unit as a range, with the unit once: "0.1 to 1.5 m". Feet with inches keep theirs.
func (m Magnitude) Range(to float64, u Units) string {
	low, high := m.In(u), Magnitude{Value: to, Unit: m.Unit}.In(u)
	at, feet := strings.LastIndexByte(low, ' '), u == Imperial && to >= 3*foot
	if at > 0 && strings.HasSuffix(high, low[at:]) && !feet {
		low = low[:at]
	}
	return low + " to " + high
}

// Figure writes a number with six figures at most.
func Figure(v float64) string {
	exact := strconv.FormatFloat(v, 'g', -1, 64)
	if len(exact) <= 8 || math.IsNaN(v) {
		return exact
	}
	return strconv.FormatFloat(v, 'g', 6, 64)
}
