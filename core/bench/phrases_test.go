package bench

import (
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"
)

// The sentence of whichever bag reads well, has at most ten parts that set something, and a remedy for each thing that
// is wrong and can be mended; out of reach, what it offers is within.
func TestPhrases(t *testing.T) {
	g := gym{rand.New(rand.NewPCG(13, 300))}
	ill := regexp.MustCompile(`  | [,.;:]|\.\.|,\.|: \.|NaN|%!`)
	remedies, taken := 0, 0
	for range 300 {
		q := about(g.bag(g.IntN(6)), User{Name: "Ines Calder"})
		if g.IntN(3) == 0 {
			tempo := g.from(30, 500)
			q.Tempo = &tempo
		}
		a, err := Ask(q)
		if err != nil {
			continue // a measure that this bag cannot have
		}
		text, parts := "", map[Control]int{}
		for _, p := range a.Said {
			text += p.Text
			if p.Part != PlainWords && p.Part != Remedy {
				parts[p.Part]++
			}
			if p.Part != Remedy {
				continue
			}
			remedies++
			if (len(p.Set) == 0) == (p.Ask == nil) {
				t.Errorf("%q sets %v and asks %v", p.Text, p.Set, p.Ask)
			}
			if p.Ask == nil || p.Ask.Launch > 0 || a.Strike.Feasible {
				continue
			}
			again := q
			if p.Ask.Tempo > 0 {
				again.Tempo = &p.Ask.Tempo
			}
			if p.Ask.Rebounds > 0 {
				again.Meeting.Rebounds = p.Ask.Rebounds
			}
			taken++
			if b, err := Ask(again); err != nil || !b.Strike.Feasible {
				t.Errorf("%q is offered and is out of reach: %v", p.Text, err)
			}
		}
		text = strings.TrimSpace(text)
		if ill.MatchString(text) || !strings.HasSuffix(text, ".") {
			t.Errorf("%q", text)
		}
		if len(parts) > 10 || parts[TempoPart] != 1 || parts[CountPart] != 1 || parts[ForcePart] != 1 ||
			parts[MeasurePart] != 1 || parts[AroundPart] != 1 {
			t.Errorf("%v: %q", parts, text)
		}
	}
	if remedies < 100 || taken < 20 {
		t.Errorf("only %d remedies, %d of them taken", remedies, taken)
	}
}
