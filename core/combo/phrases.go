package combo

import (
	"strconv"
	"strings"
)

// phrase is a move as it is said. What the stance or the strikes before it settle is left open.
type phrase struct {
	Move
	pair [2]Word // lead's and rear's, of a punch that is named by its kind: "left hook"
	side Side    // said instead of the hand
	open bool    // the hand is not said: it alternates
	rear bool    // where nothing went before, an open hand is the rear one; else the lead one
	said Hand    // beside a punch that has its own: "lead jab"
	then Word    // a step that belongs to it
	any  string  // what is parried, where its hand is not said
}

// family is a kind of strike that is said with its hand.
type family struct {
	names []string
	pair  [2]Word // numbers of the two punches; else one word with a way
	word  Word
	rear  bool
	high  bool
}

var families = []family{
	{names: []string{"straight"}, pair: [2]Word{"1", "2"}, rear: true},
	{names: []string{"hook"}, pair: [2]Word{"3", "4"}},
	{names: []string{"uppercut", "upper", "upper cut"}, pair: [2]Word{"5", "6"}},
	{names: []string{"overhand", "over hand"}, word: Overhand, rear: true},
	{names: []string{"push kick", "teep", "teep kick"}, word: PushKick},
	{names: []string{"round kick", "roundhouse", "roundhouse kick", "body kick"}, word: RoundKick, rear: true},
	{names: []string{"high kick", "head kick"}, word: RoundKick, rear: true, high: true},
	{names: []string{"low kick"}, word: LowKick, rear: true},
	{names: []string{"knee"}, word: KneeUp, rear: true},
	{names: []string{"elbow"}, word: ElbowIn},
}

// plain are the moves that have no side to say, by the ways they are said.
var plain = map[Word][]string{
	Duck: {"duck", "duck under", "duck down", "bob"}, Weave: {"weave", "bob weave", "weave under"},
	Pull:  {"pull", "pull back", "lean back", "lean away"},
	Block: {"block"}, Parry: {"parry"}, Cover: {"cover", "cover up", "guard"}, LongGuard: {"long guard"},
	Feint: {"feint", "fake"}, Jam: {"jam"},
	Switch: {"switch", "switch feet", "switch stance", "switch step"}, WaitOne: {"wait", "let one go"},
	Double: {"double", "double punch"},
}

// sided are the moves that go to a side, by the ways they are said.
var sided = map[Word][]string{
	Slip: {"slip"}, Roll: {"roll", "roll under"}, Pivot: {"pivot"},
	StepTo: {"step", "side step", "sidestep", "step off", "step out"},
}

var numbered = []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
	"twelve"}

var hands = map[string]Hand{"lead": Lead, "rear": Rear}

var bodySides = map[string]Side{"left": Left, "right": Right}

// phrases are the names of all moves; incomplete, the words that need another; longest, how many words the longest
// name has.
var phrases, incomplete, longest = func() (map[string]*phrase, map[string]string, int) {
	all, need := map[string]phrase{}, map[string]string{}
	for n := range 6 {
		word := Word(strconv.Itoa(n + 1))
		all[string(word)], all[numbered[n]] = phrase{Move: Move{Word: word}}, phrase{Move: Move{Word: word}}
		all[string(word)+"b"] = phrase{Move: Move{Word: word, Body: true}}
	}
	own := func(name string, word Word) {
		all[name] = phrase{Move: Move{Word: word}}
		for said, h := range hands {
			all[said+" "+name] = phrase{Move: Move{Word: word}, said: h}
		}
		for said, side := range bodySides {
			all[said+" "+name] = phrase{Move: Move{Word: word}, side: side}
		}
	}
	own("jab", "1")
	own("cross", "2")
	for _, k := range families {
		for _, name := range k.names {
			k.say(all, name)
			if k.word == "" {
				k.aimed(all, name)
			}
		}
	}
	for _, name := range []string{"overhand", "over hand"} { // by the rear hand where none is said (common practice)
		all[name] = phrase{Move: Move{Word: Overhand, Toward: string(Rear)}}
	}
	for said := range hands {
		all[said+" hand"] = all[said+" straight"]
	}
	for said, side := range bodySides { // "left, right" are straights; a straight is said either way about
		for _, name := range []string{said, said + " hand", "straight " + said, "straight " + said + " hand"} {
			all[name] = phrase{pair: families[0].pair, side: side}
		}
	}
	for word, names := range plain {
		for _, name := range names {
			all[name] = phrase{Move: Move{Word: word}}
		}
	}
	for word, names := range sided {
		for _, name := range names {
			for said, h := range hands {
				all[name+" "+said], all[name+" to the "+said] = phrase{Move: Move{Word: word, Toward: string(h)}},
					phrase{Move: Move{Word: word, Toward: string(h)}}
				all[name+" to the "+said+" side"] = all[name+" "+said]
			}
			for said, side := range bodySides {
				all[name+" "+said], all[name+" to the "+said] = phrase{Move: Move{Word: word}, side: side},
					phrase{Move: Move{Word: word}, side: side}
			}
			need[name] = orList(name, vocabulary[word].ways)
		}
	}
	for said, way := range map[string]string{"inside": "lead", "outside": "rear", "to the inside": "lead",
		"to the outside": "rear"} {
		all["slip "+said] = phrase{Move: Move{Word: Slip, Toward: way}}
	}
	for said, way := range map[string]string{"in": "in", "forward": "in", "back": "back"} {
		all["step "+said] = phrase{Move: Move{Word: StepTo, Toward: way}}
	}
	for _, name := range []string{"check hook", "lead check hook"} {
		all[name] = phrase{Move: Move{Word: "3"}, then: Pivot}
	}
	need["kick"], need["push"], need["round"] = "push kick, round kick or low kick", "push kick", "round kick"
	need["check"], need["lean"], need["long"] = "check hook", "lean back", "long guard"
	need["stop"] = "stop jab, stop push kick lead"
	need["triple"], need["side"] = "triple jab", need["side step"]
	long, list := 0, make(map[string]*phrase, len(all))
	for name, ph := range all {
		long, list[name] = max(long, strings.Count(name, " ")+1), &ph
	}
	return list, need, long
}()

// begins are the words that a longer name begins with.
var begins = func() map[string]bool {
	list := map[string]bool{}
	for name := range phrases {
		for i := range name {
			if name[i] == ' ' {
				list[name[:i]] = true
			}
		}
	}
	return list
}()

// say adds the ways in which a strike of a kind is said.
func (k family) say(all map[string]phrase, name string) {
	phraseOf := func(h Hand) phrase {
		p := phrase{Move: Move{Word: k.word, Toward: string(h), High: k.high}}
		if k.word == "" {
			p.Move = Move{Word: k.pair[0]}
			if h == Rear {
				p.Word = k.pair[1]
			}
		}
		return p
	}
	all[name] = phrase{Move: Move{Word: k.word, High: k.high}, pair: k.pair, open: true, rear: k.rear, any: name}
	for said, h := range hands {
		all[said+" "+name] = phraseOf(h)
		if k.word != "" { // "knee lead" as well as "lead knee"
			all[name+" "+said] = phraseOf(h)
		}
	}
	for said, side := range bodySides {
		all[said+" "+name] = phrase{Move: Move{Word: k.word, High: k.high}, pair: k.pair, side: side}
		if k.word != "" {
			all[name+" "+said] = all[said+" "+name]
		}
	}
}

// aimed adds "left body hook" and "lead high hook".
func (k family) aimed(all map[string]phrase, name string) {
	for _, hand := range []string{"lead", "rear", "left", "right"} {
		for where, goes := range beforehand {
			p := all[hand+" "+name]
			p.Body = goes == toBody
			all[hand+" "+where+" "+name] = p
		}
	}
}

// strikes says whether the phrase is a strike.
func (p *phrase) strikes() bool { return p.Word == "" || p.Kind() == Strike }

// bare says whether a token is no more than "left" or "right".
func bare(t token) bool { return bodySides[t.text] != "" }

func orList(word string, ways []string) string {
	list := make([]string, len(ways))
	for i, way := range ways {
		list[i] = word + " " + way
	}
	return strings.Join(list, " or ")
}
