package combo

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"melodromos/core/input"
)

// line is a line as a coach writes it and its meaning for an orthodox boxer and, where left or right is said, for a
// southpaw.
type line struct{ text, orthodox, southpaw string }

// Everyday lines and what they mean (common practice; from memory where a coach's word has several uses).
var lines = []line{
	// numbers
	{"1", "1", ""}, {"1-2", "1-2", ""}, {"1 2 3", "1-2-3", ""}, {"1,2,3,2", "1-2-3-2", ""}, {"1/2/3", "1-2-3", ""},
	{"1+2", "1-2", ""},
	{"1 + 2 + 3", "1-2-3", ""}, {"1.2.3", "1-2-3", ""}, {"1–2", "1-2", ""}, {"1 > 2 > 3", "1-2-3", ""},
	{"1 -> 2", "1-2", ""}, {"1 → 2", "1-2", ""},
	{"one two three", "1-2-3", ""}, {"one-two", "1-2", ""}, {"One, Two, Hook", "1-2-3", ""}, {"1 then 2", "1-2", ""},
	{"1 and 2", "1-2", ""}, {"1 & 2", "1-2", ""},
	{"1-2, then 3", "1-2-3", ""}, {"1b 2", "1b-2", ""}, {"1-2B-3", "1-2b-3", ""}, {"2!", "2!", ""},
	{"1-1-2", "1-1-2", ""}, {"1:3 2:3", "1:3-2:3", ""},
	// names
	{"jab", "1", ""}, {"cross", "2", ""}, {"jab cross", "1-2", ""}, {"jab, cross, hook", "1-2-3", ""},
	{"jab-cross-hook-cross", "1-2-3-2", ""}, {"jab / cross", "1-2", ""},
	{"jab + cross + hook", "1-2-3", ""}, {"jab and cross", "1-2", ""}, {"jab then cross then hook", "1-2-3", ""},
	{"lead jab", "1", ""}, {"rear cross", "2", ""}, {"straight", "2", ""},
	{"jab straight", "1-2", ""}, {"lead hook", "3", ""}, {"rear hook", "4", ""}, {"rear uppercut", "6", ""},
	{"cross, lead hook, cross", "2-3-2", ""}, {"overhand", "overhand", ""},
	{"jab, overhand", "1 - overhand", ""}, {"lead overhand", "lead overhand", ""}, {"rear hand", "2", ""},
	{"lead hand, rear hand", "1-2", ""}, {"lead upper cut", "5", ""},
	// the hand that alternates
	{"hook", "3", ""}, {"uppercut", "5", ""}, {"jab hook", "1-4", ""}, {"cross hook", "2-3", ""},
	{"jab cross uppercut", "1-2-5", ""}, {"1-2-hook-2", "1-2-3-2", ""},
	{"hook cross hook", "3-2-3", ""}, {"jab cross hook uppercut", "1-2-3-6", ""},
	{"slip lead hook", "slip lead - 3", ""}, {"slip rear, hook", "slip rear - 4", ""},
	{"2 slip rear uppercut", "2 - slip rear - 6", ""}, {"roll rear hook", "roll rear - 4", ""},
	{"1-2 | hook", "1-2 | 3", ""}, {"1, slip rear, step in, hook", "1 - slip rear - step in - 4", ""},
	{"(hook)x4", "3-4-3-4", ""}, {"(hook uppercut) x 2", "(3-6)x2", ""}, {"double punch, hook", "double - 3", ""},
	// left and right
	{"left right", "1-2", "2-1"}, {"left, right, left", "1-2-1", "2-1-2"}, {"left hook", "3", "4"},
	{"right hook", "4", "3"}, {"left jab", "1", "!"}, {"right jab", "!", "1"},
	{"right cross", "2", "!"}, {"left uppercut right uppercut", "5-6", "6-5"}, {"straight left", "1", "2"},
	{"straight right", "2", "1"}, {"left straight", "1", "2"}, {"right hand", "2", "1"},
	{"left hand, right hand", "1-2", "2-1"}, {"overhand right", "overhand", "lead overhand"},
	{"right overhand", "overhand", "lead overhand"}, {"left hook, straight right", "3-2", "4-1"},
	{"slip left", "slip lead", "slip rear"}, {"slip right", "slip rear", "slip lead"},
	{"slip to the left", "slip lead", "slip rear"}, {"slip left, left hook", "slip lead - 3", "slip rear - 4"},
	{"slip right right hand", "slip rear - 2", "slip lead - 1"}, {"roll left", "roll lead", "roll rear"},
	{"roll to the right", "roll rear", "roll lead"}, {"step left", "step lead", "step rear"},
	{"step to the right", "step rear", "step lead"}, {"side step left", "step lead", "step rear"},
	{"pivot left", "pivot lead", "pivot rear"}, {"pivot right, right hand", "pivot rear - 2", "pivot lead - 1"},
	{"left body hook", "3b", "4b"}, {"jab, rear body uppercut", "1-6b", ""}, {"left hook to the body", "3b", "4b"},
	{"left to the body, right to the head", "1b-2", "2b-1"}, {"left teep", "push kick lead", "push kick rear"},
	{"right round kick", "round kick rear", "round kick lead"},
	{"left knee, right knee", "knee lead - knee rear", "knee rear - knee lead"},
	{"switch, left hook", "switch - 4", "switch - 3"},
	{"left hook, switch, left hook", "3 - switch - 4", "4 - switch - 3"},
	{"(switch - right hook) x 2", "switch - 3 - switch - 4", "switch - 4 - switch - 3"},
	{"double left hook", "3-3", "4-4"}, {"feint left", "feint jab", "feint cross"},
	// where it goes
	{"jab to the body", "1b", ""}, {"jab to the head", "1", ""}, {"jab to the body, cross to the head", "1b-2", ""},
	{"body jab", "1b", ""}, {"body jab, cross", "1b-2", ""}, {"jab body, cross", "1b-2", ""},
	{"jab low", "1b", ""}, {"jab high", "1", ""}, {"low jab, high cross", "1b-2", ""},
	{"jab low cross high", "1b-2", ""}, {"jab high, hook low", "1-4b", ""}, {"hook low, hook high", "3b-4", ""},
	{"lead hook to the body", "3b", ""}, {"lead hook to the body then lead hook to the head", "3b-3", ""},
	{"jab upstairs, hook downstairs", "1-4b", ""}, {"1 low 2 high", "1b-2", ""}, {"low 1", "1b", ""},
	{"2 to the body", "2b", ""}, {"overhand to the body", "overhand body", ""},
	{"round kick rear to the head", "round kick rear high", ""}, {"high kick lead", "round kick lead high", ""},
	{"1-2-low kick rear", "1-2 - low kick rear", ""}, {"jab, low kick", "1 - low kick rear", ""}, {"low-low", "", ""},
	// two, three and many of one
	{"double jab", "1-1", ""}, {"double jab cross", "1-1-2", ""}, {"double jab, cross, hook", "1-1-2-3", ""},
	{"double-jab", "1-1", ""}, {"triple jab", "1-1-1", ""}, {"triple jab cross", "1-1-1-2", ""},
	{"double hook", "3-3", ""}, {"double lead hook", "3-3", ""}, {"cross, double hook", "2-3-3", ""},
	{"double 1 2", "1-1-2", ""}, {"double jab to the body", "1b-1b", ""}, {"double cross!", "2-2!", ""},
	{"double", "double", ""}, {"double punch", "double", ""}, {"double - 1", "double - 1", ""},
	{"100 jabs", "(1)x100", ""}, {"10 one-twos", "(1-2)x10", ""}, {"ten 1-2s", "(1-2)x10", ""},
	{"20 crosses", "(2)x20", ""}, {"3 jabs, cross", "(1)x3 - 2", ""}, {"5 lead hooks", "(3)x5", ""},
	{"10 left hooks", "(3)x10", "(4)x10"}, {"4 hooks", "3-4-3-4", ""},
	{"jab x3", "(1)x3", ""}, {"jab x 3", "(1)x3", ""}, {"jab x3, cross", "(1)x3 - 2", ""}, {"1-2 x3", "(1-2)x3", ""},
	{"1-2x3", "(1-2)x3", ""}, {"1-2 x 3", "(1-2)x3", ""}, {"(1-2) x 3", "(1-2)x3", ""}, {"(1-2) X3", "(1-2)x3", ""},
	{"(1-2)×3", "(1-2)x3", ""}, {"[1-2] x3", "(1-2)x3", ""}, {"3x jab", "(1)x3", ""},
	{"3 x jab, cross", "(1)x3 - 2", ""}, {"3 x (1-2)", "(1-2)x3", ""}, {"jab cross x3", "(1-2)x3", ""},
	{"1-2 three times", "(1-2)x3", ""},
	{"jab twice, cross", "(1)x2 - 2", ""}, {"1-2 (x3)", "(1-2)x3", ""},
	{"1 x3, 1-2 x3, 2-3 x2", "(1)x3 - (1-2)x3 - (2-3)x2", ""}, {"slip lead, 3-2 x2", "slip lead - (3-2)x2", ""},
	{"double jab cross x2", "(1-1-2)x2", ""}, {"jab 3x", "(1)x3", ""},
	// defence, steps, feints
	{"slip lead", "slip lead", ""}, {"slip inside", "slip lead", ""}, {"slip outside, cross", "slip rear - 2", ""},
	{"duck under", "duck", ""}, {"1-2-duck-2", "1-2 - duck - 2", ""}, {"lean back, cross", "pull 2", ""},
	{"jab, pull, cross", "1 - pull 2", ""}, {"bob and weave", "weave", ""}, {"bob & weave, hook", "weave - 3", ""},
	{"1-2, bob and weave, then 2-3", "1-2 - weave - 2-3", ""}, {"roll under lead", "roll lead", ""},
	{"cover up", "cover", ""},
	{"step forward, jab", "step in - 1", ""}, {"1-2-step back", "1-2 - step back", ""},
	{"check hook", "3 - pivot lead", ""}, {"1-2, check hook", "1-2-3 - pivot lead", ""}, {"teep", "push kick lead", ""},
	{"1-2-teep", "1-2 - push kick lead", ""},
	{"jab, teep rear", "1 - push kick rear", ""}, {"feint", "feint", ""}, {"feint jab", "feint jab", ""},
	{"feint jab, cross", "feint jab - 2", ""}, {"feint the jab then cross", "feint jab - 2", ""},
	{"feint 1 2", "feint jab - 2", ""}, {"feint - 1", "feint - 1", ""},
	{"feint low, hook high", "feint body - 3", ""}, {"power cross", "2!", ""}, {"jab, big right hand", "1-2!", "1-1!"},
	{"1 hard 2", "1-2!", ""}, {"hard double jab, cross", "1-1!-2", ""},
	{"feint low jab, cross", "feint jab body - 2", ""}, {"parry jab", "parry jab", ""},
	{"parry the jab, cross", "parry jab - 2", ""}, {"parry, jab", "parry - 1", ""},
	{"block hook, cross", "block hook - 2", ""}, {"block 1-2", "block - 1-2", ""},
	{"2, stop jab, 2", "2 - stop 1 - 2", ""}, {"2 - stop it with a jab - 2", "2 - stop 1 - 2", ""},
	{"2, stop with a push kick lead, 2", "2 - stop push kick lead - 2", ""},
	{"2, stop long guard, 2", "2 - long guard - 2", ""},
	{"2, stop step left, low kick rear", "2 - stop step lead - low kick rear", "2 - stop step rear - low kick rear"},
	{"2, stop straight right, 2", "2 - stop 2 - 2", "2 - stop 1 - 2"},
	{"jam, 5-6", "jam - 5-6", ""}, {"long guard, cross", "long guard - 2", ""}, {"switch feet, 2", "switch - 2", ""},
	{"1-2 | slip lead 3", "1-2 | slip lead - 3", ""}, {"wait, jab", "wait - 1", ""},
}

// Every line means what it says for both stances, is shown back in a form that is read the same; what it left open
// has its place in the line. One is not read on purpose, and a jab of the rear hand is none.
func TestLines(t *testing.T) {
	read := 0
	for _, l := range lines {
		if l.southpaw == "" {
			l.southpaw = l.orthodox
		}
		for s, want := range map[Stance]string{Orthodox: l.orthodox, Southpaw: l.southpaw} {
			c, notes, err := Read(l.text, s)
			if want == "" || want == "!" {
				if err == nil {
					t.Errorf("%q, %s, is read as %q", l.text, s, c)
				}
				continue
			}
			if err != nil || c.String() != want {
				t.Errorf("%q, %s: %q, %v, want %q", l.text, s, c, err, want)
				continue
			}
			again, _, err := Read(want, s)
			if err != nil || fmt.Sprint(again) != fmt.Sprint(c) {
				t.Errorf("%q is read again as %q, %v", want, again, err)
			}
			for _, n := range notes {
				if runes := []rune(l.text); n.Column < 1 || n.Column+n.Width-1 > len(runes) || n.Read == "" ||
					n.Why == "" {
					t.Errorf("%q: %+v", l.text, n)
				}
			}
		}
		read++
	}
	t.Logf("%d lines", read)
}

// What is left open is told where the line is read back.
func TestNotes(t *testing.T) {
	for text, want := range map[string]string{
		"1-2-hook":              "5 hook: lead hook, the hand that alternates",
		"slip rear, hook":       "12 hook: rear hook, the hand on the side it comes from",
		"hook":                  "1 hook: lead hook, the lead one where nothing else is said",
		"straight":              "1 straight: cross, the rear one where nothing else is said",
		"1-2, low kick":         "6 low kick: lead low kick, the leg that alternates",
		"(uppercut)x3":          "2 uppercut: lead uppercut, then rear uppercut, the lead one where nothing else is said",
		"left hook, slip right": "", "1-2": "",
		"jab, feint hook": "12 hook: rear hook, the hand that alternates",
	} {
		_, notes, err := Read(text, Orthodox)
		var got []string
		for _, n := range notes {
			got = append(got, fmt.Sprintf("%d %s: %s, %s", n.Column, n.Said, n.Read, n.Why))
		}
		if g := strings.Join(got, "; "); err != nil || g != want {
			t.Errorf("%q: %q, %v, want %q", text, g, err, want)
		}
	}
}

// Slips of the finger and of the order, and what could mean two things: each is answered in words that put it right.
func TestTypos(t *testing.T) {
	list := []struct {
		text   string
		column int
		want   string
	}{
		{"slpi lead", 1, `"slpi" is not known; the nearest word is "slip"`},
		{"1-2-kros", 5, `"kros" is not known; the nearest word is "cross"`},
		{"1 – jabb", 5, `"jabb" is not known; the nearest word is "jab"`},
		{"jba", 1, `"jba" is not known; the nearest word is "jab"`},
		{"jab, corss", 6, `"corss" is not known; the nearest word is "cross"`},
		{"uppercutt", 1, `"uppercutt" is not known; the nearest word is "uppercut"`},
		{"lead hok", 6, `"hok" is not known; the nearest word is "hook"`},
		{"1-2-duk", 5, `"duk" is not known; the nearest word is "duck"`},
		{"rigth hook", 1, `"rigth" is not known; the nearest word is "right"`},
		{"hook lead", 6, `these words stand the other way about: write lead hook`},
		{"lead slip, 3", 1, `these words stand the other way about: write slip lead`},
		{"1-2-left slip", 5, `the side comes second: write slip left`},
		{"jab left", 5, `the hand comes first: write left jab, or a comma between two punches`},
		{"guard long", 7, `these words stand the other way about: write long guard`},
		{"back step", 1, `these words stand the other way about: write step back`},
		{"duck left", 6, `duck has no side; write a comma before left if a punch is meant`},
		{"left block", 1, `write left with its punch, such as left hook, or a comma after it`},
		{"slip", 1, `"slip" needs its side: slip lead or slip rear`},
		{"1-2-roll-2", 5, `"roll" needs its side: roll lead or roll rear`},
		{"1-7", 3, `"7" is not known: the punches are 1 to 6`},
		{"1-12", 3, `"12" is not known; write it 1-2`},
		{"1-2-]", 5, `this bracket closes none that was opened`},
		{"1-2 #3", 5, `"#" means nothing here`},
		{"jab body hook", 5,
			`"body" could belong to either punch: write jab to the body, hook or jab, hook to the body`},
		{"jab, cross x3", 12, `this can be read in two ways: write (jab, cross)x3, or (cross)x3`},
		{"double jab cross, slip left, hook x2", 35,
			`this can be read in two ways: write (double jab cross, slip left, hook)x2, or (hook)x2`},
		{"jab 1-2 x3", 9, `this can be read in two ways: write (jab 1-2)x3, or (1-2)x3`},
		{"3 x 1-2", 3, `this can be read in two ways: write (3)x1, or put what is done 3 times in brackets`},
		{"double slip lead", 8, `expected a punch after "double"; for both fists at once write double punch`},
		{"triple", 1, `"triple" is only part of a name: triple jab`},
		{"kick rear", 1, `"kick" is only part of a name: push kick, round kick or low kick`},
		{"right jab", 1, `a jab is the lead hand's: this boxer leads with the left; write right straight`},
		{"rear jab", 1, `a jab is the lead hand's; write rear straight`},
		{"jabs", 1, `how many jabs? Write 3 jabs, or jab for one`},
		{"low jab to the head", 9, `jab goes either to the head or to the body`},
		{"banana", 1,
			`"banana" is not known; write a punch as 1 to 6 or by its name, or a move such as slip lead, duck or step in`},
		{"2 - stop hook", 10,
			`a swinging bag is stopped by a straight in time, a step aside, a round kick, a push kick, a long guard or a jam`},
		{"jab, low, hook", 6, `expected a strike beside "low", such as jab to the body`},
		{"1 b", 3, `write it together, 1b, or 1 to the body`},
		{"1b2", 1, `"1b2" is not known; write it 1b-2`},
		{"hard duck", 6, `only a strike can be the power shot`},
		{"1-2-lean", 5, `"lean" is only part of a name: lean back`},
	}
	for _, typo := range list {
		var refused *input.Error
		_, err := Parse(typo.text)
		if !errors.As(err, &refused) || refused.Column != typo.column || refused.Reason != typo.want {
			t.Errorf("%q: %v, want column %d: %s", typo.text, err, typo.column, typo.want)
			continue
		}
		if runes := []rune(typo.text); refused.Width < 1 || refused.Column+refused.Width-1 > len(runes) {
			t.Errorf("%q: column %d, width %d", typo.text, refused.Column, refused.Width)
		}
		t.Logf("%-18s column %d: %s", typo.text, refused.Column, refused.Reason)
	}
}

// No refusal offers the word that was typed, and none a number for a sign.
func FuzzRefusals(f *testing.F) {
	for _, l := range lines {
		f.Add(l.text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		var refused *input.Error
		if _, _, err := Read(text, Southpaw); !errors.As(err, &refused) || refused.Column == 0 {
			return
		}
		_, near, ok := strings.Cut(refused.Reason, "the nearest word is ")
		if !ok {
			return
		}
		typed, _, _ := strings.Cut(refused.Reason, " is not known")
		if near == typed || digits(strings.Trim(near, `"`)) {
			t.Errorf("%q: %s", text, refused.Reason)
		}
	})
}
