package drill

import (
	"fmt"
	"math"
	"strings"

	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Units says in which system lengths are put into words.
type Units string

// The two systems.
const (
	Metric   Units = "metric"
	Imperial Units = "imperial"
)

// length puts a length of a bag (m) into words.
func (u Units) length(m float64) string {
	if u == Imperial {
		return trimmed(m/0.0254) + " in"
	}
	return trimmed(m*100) + " cm"
}

// Answered puts a rig's answer into the sentence a coach asks for: at what tempo to strike and how, or why not and what
// to change instead.
func Answered(a rig.Answer, ability trainee.Ability, units Units) string {
	rebounds := number(a.Limits.Rebounds) + " rebound"
	if a.Limits.Rebounds != 1 {
		rebounds += "s"
	}
	if a.Feasible {
		return fmt.Sprintf("Strike at %.0f a minute: %s, %s.", a.Tempo, rebounds, ability.Effort(a.FistSpeed))
	}
	reach := fmt.Sprintf("too slow for this bag with %s: it starts at %.0f.", rebounds, math.Ceil(a.Limits.Slowest))
	if a.Tempo > a.Limits.Fastest {
		reach = fmt.Sprintf("too fast for this bag with %s: it ends at %.0f.", rebounds, math.Floor(a.Limits.Fastest))
	}
	return fmt.Sprintf("%s a minute is %s %s", trimmed(a.Tempo), reach, advised(a, units))
}

// advised puts the changes that would help into one sentence.
func advised(a rig.Answer, units Units) string {
	var ways []string
	for _, c := range a.Change {
		switch c.What {
		case "rebounds":
			ways = append(ways, "count "+number(int(c.To)))
		case "bagLength":
			ways = append(ways, "hang a bag of "+units.length(c.To))
		case "tempo":
			whole := math.Ceil(c.To) // on the side of the limit that the bag allows
			if a.Tempo > a.Limits.Fastest {
				whole = math.Floor(c.To)
			}
			ways = append(ways, fmt.Sprintf("take %.0f a minute", whole))
		}
	}
	if len(ways) == 0 {
		return ""
	}
	text := strings.Join(ways, ", or ") + "."
	return strings.ToUpper(text[:1]) + text[1:]
}

func trimmed(v float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", v), ".0") }
