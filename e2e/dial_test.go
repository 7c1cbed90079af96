package e2e

import (
	"math"
	"strings"
	"testing"
)

// dialed is a rhythm struck once a second and a combination of four strikes in two parts, thrown twice, on dials.
const dialed = `
	const swing = (over, many) => Array.from({ length: many + 1 }, (_, i) => ({ at: (over * i) / many, swing: Math.sin((2 * Math.PI * i) / many) }))
	const still = { through: [{ at: 0, swing: 0 }, { at: 0.5, swing: -0.5 }], marks: [], passes: [], window: 0.2, opens: -0.1,
		closes: 0.1, strike: 0, mirrored: false, reach: 0.1, contact: 0 }
	window.rhythm = { ...still, trace: swing(1, 20), starts: [], return: 1, turn: 1 }
	window.film = { ...still, trace: swing(5, 50), starts: [10, 15], return: 4, turn: 5 }
	const thrown = ['1', '2:3', '3b', '2!']
	window.planned = [0, 1].flatMap((rep) => thrown.map((text, k) => ({ i: 4 * rep + k, at: 10 + 5 * rep + k, window: 0.2,
		hand: text === '2:3' || text === '2!' ? 'rear' : 'lead', text, rep, part: k < 2 ? 0 : 1, move: k })))
	window.moves = [
		{ at: 11.2, until: 11.8, kind: 'defence', text: 'slip left', rep: 0, part: 1 },
		{ at: 13.4, until: 13.8, kind: 'defence', text: 'duck', known: 13.2 },
	]
	window.beats = [0, 1, 2].map((i) => ({ i, at: i, window: 0.2, hand: i % 2 ? 'rear' : 'lead' }))
	window.dial = (over) => new m.Face(() => ({ cycle: film, planned, strikes: planned, moves, hits: [], tempo: 60,
		stance: 'southpaw', whole: false, ...over }))
	const every = (gap) => planned.map((s) => ({ ...s, at: 10 + 5 * s.rep + gap * s.move }))
	window.close = every(0.3)
	window.tight = every(0.1)
	window.degrees = (spot) => (180 / Math.PI) * spot.angle
`

// Where things stand on the dial: angle is time, one turn a cycle or a repetition; radius is how far the bag is out.
func TestDial(t *testing.T) {
	b := modules(t)
	b.do(dialed)
	for script, want := range map[string]float64{
		// A rhythm: its strike at the top, a quarter of the cycle later a quarter round, the bag furthest out there.
		"degrees(new m.Turn(rhythm).spot(0.25))":               90,
		"new m.Turn(rhythm).spot(0.25).r - m.radius(1)":        0,
		"new m.Turn(rhythm).spot(0.25, -1).r - m.radius(-1)":   0, // struck from behind
		"new m.Turn(rhythm).spot(1.5).r - m.radius(-0.5)":      0, // let by, it goes on
		"degrees(new m.Turn(film).spot(1))":                    72,
		"degrees(new m.Turn(film, 2, 4).spot(3))":              180, // a part has the whole turn
		"dial().discs.length":                                  4,
		"degrees(dial().discs[2].spot)":                        144,
		"dial({ cycle: rhythm, strikes: beats }).discs.length": 1,
		// The bead: struck 0.2 s early it starts anew there, and is halfway when half the time to the next is over.
		"(() => { const f = dial({ cycle: rhythm, strikes: [beats[0], { ...beats[1], at: 0.8 }, { ...beats[2], at: 1.8 }] }); f.at(0.8); return degrees(f.bead(0.8)) })()": 0,
		"(() => { const f = dial({ cycle: rhythm, strikes: [beats[0], { ...beats[1], at: 0.8 }, { ...beats[2], at: 1.8 }] }); f.at(1.3); return degrees(f.bead(1.3)) })()": 180,
		// Inside a combination it is on a strike when that is due, however late.
		"(() => { const f = dial({ strikes: planned.map((s) => ({ ...s, at: s.at + (s.i === 1 ? 0.4 : 0) })) }); f.at(11.4); return degrees(f.bead(11.4)) })()": 72,
		// A hit lies beside its strike, 50 ms after it, in whichever repetition.
		"degrees(dial({ hits: [{ at: 16.05, hand: '', i: 5, off: 0.05 }] }).dots[0].spot)":                 75.6,
		"dial({ hits: [{ at: 16, hand: '', i: 5, off: 0 }] }).dots[0].spot.r > dial().discs[1].spot.r + 6": 1,
		"dial({ hits: [{ at: 12.5, hand: '' }] }).dots.length":                                             0, // it belongs to none
		// What a cue calls is not there before the cue.
		"(() => { const f = dial(); f.at(13.1); return f.marks.length })()": 1,
		"(() => { const f = dial(); f.at(13.3); return f.marks.length })()": 2,
		"(() => { const f = dial(); f.at(14.5); return f.marks.length })()": 1,
		// Where the strikes stand too close for their figures, a turn is one part; planning shows the whole.
		"dial({ planned: close, strikes: close, moves: [] }).discs.length":              4,
		"dial({ planned: tight, strikes: tight, moves: [] }).discs.length":              2,
		"dial({ planned: tight, strikes: tight, moves: [], whole: true }).discs.length": 4,
	} {
		if got := value[float64](b, "Number(("+script+"))"); math.Abs(got-want) > 1e-6 {
			t.Errorf("%s = %g, want %g", script, got, want)
		}
	}
}

// What the dial says: the phrase that comes, what comes after it, and hands as this person has them.
func TestDialSays(t *testing.T) {
	b := modules(t)
	b.do(dialed)
	for script, want := range map[string]string{
		"(() => { const f = dial(); f.at(9.9); return f.now.main + '; ' + f.now.then })()":  "1-2; then slip left, 3b-2!",
		"(() => { const f = dial(); f.at(10.1); return f.now.main + '; ' + f.now.then })()": "2; then slip left, 3b-2!",
		"(() => { const f = dial(); f.at(11.5); return f.now.main + '; ' + f.now.then })()": "slip left; then 3b-2!",
		"(() => { const f = dial(); f.at(13.3); return f.now.main + '; ' + f.now.then })()": "duck; ", // a cue has called it
		"(() => { const f = dial(); f.at(14.5); return f.now.main + '; ' + f.now.then })()": "1-2; get set",
		"(() => { const f = dial(); f.at(19); return f.now.main + '; ' + f.now.then })()":   "; ", // the last one is done
		"dial().told.join(' | ')": "1-2 | slip left, 3b-2!",
		"(() => { const f = dial({ cycle: rhythm, strikes: beats }); f.at(0.1); return f.now.main + '; ' + f.now.then })()":             "L; then right",
		"(() => { const f = dial({ cycle: rhythm, strikes: beats, stance: '' }); f.at(0.1); return f.now.main + '; ' + f.now.then })()": "rear; then lead",
		"m.handLetter('lead', 'orthodox')":            "L",
		"m.handLetter('rear', 'southpaw')":            "L",
		"m.handLetter('both', 'orthodox')":            "LR",
		"m.faceOf({ text: '2:3', hand: 'rear' }, '')": "2",
		"m.faceOf({ hand: 'rear' }, '')":              "", // the word stands beside the disc
		"m.handWord('rear', '')":                      "rear",
	} {
		if got := value[string](b, script); got != want {
			t.Errorf("%s = %q, want %q", script, got, want)
		}
	}
}

// On the floor: the discs of the part that is thrown, in this person's hands; a dot for each hit; the bead goes round;
// in the review all hits of the round lie on the one dial.
func TestDialOnTheFloor(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Run Slip and answer with Dov Achterman"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Press("Demo hits"))
	c.ok(c.Press("Start"))
	c.ok(c.Until("document.querySelectorAll('circle.hit').length >= 3"))
	texts := c.text("[...document.querySelectorAll('svg[role=img] text')].map((t) => t.textContent).join(' ')")
	for _, want := range []string{"slip left", "slip right", "3", "2", "L", "R"} {
		if !strings.Contains(texts, want) {
			t.Errorf("the dial says %q, not %q", texts, want)
		}
	}
	before := c.text("document.querySelector('circle.bead').getAttribute('transform')")
	c.ok(c.Until("document.querySelector('circle.bead').getAttribute('transform') !== " + `"` + before + `"`))
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("Every strike"))
	shown := c.number("document.querySelectorAll('circle.hit').length")
	if clean := c.number("Number(document.body.innerText.match(/(\\d+) clean,/)[1])"); shown < clean || shown == 0 {
		t.Errorf("%g hits lie on the dial of a round with %g clean ones", shown, clean)
	}
}
