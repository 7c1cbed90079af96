package calc

import (
	"context"

	"melodromos/core/combo"
	"melodromos/core/input"
)

type moveOut struct {
	Text   string  `json:"text"`
	Kind   string  `json:"kind"`
	Hand   *string `json:"hand"`
	Side   *string `json:"side"`
	Target *string `json:"target"`
}

type flowOut struct {
	Move       int    `json:"move"`
	Code       string `json:"code"`
	Reason     string `json:"reason"`
	Deliberate bool   `json:"deliberate"`
}

// noteOut tells how a word was read that leaves something open.
type noteOut struct {
	Column int    `json:"column"`
	Said   string `json:"said"`
	Read   string `json:"read"`
	Why    string `json:"why"`
}

func readCombo(_ context.Context, o *input.Object) (any, error) {
	text := o.Text("text", combo.MaxText)
	stance := combo.Stance(o.ChoiceOr("stance", string(combo.Orthodox), string(combo.Orthodox), string(combo.Southpaw)))
	if err := o.Done(); err != nil {
		return nil, err
	}
	c, notes, err := combo.Read(text, stance)
	if err != nil {
		return nil, err
	}
	moves := c.Moves(stance)
	out := struct {
		Moves       []moveOut `json:"moves"`
		Canonical   string    `json:"canonical"`
		Mirror      string    `json:"mirror"`
		Counterpart string    `json:"counterpart"`
		Count       int       `json:"count"`
		Strikes     int       `json:"strikes"`
		Flow        []flowOut `json:"flow"`
		Notes       []noteOut `json:"notes"`
	}{
		Moves: []moveOut{}, Canonical: c.String(), Mirror: c.Mirror().String(), Counterpart: c.Counterpart().String(),
		Count: len(moves), Strikes: combo.Balanced(moves).Strikes, Flow: []flowOut{}, Notes: []noteOut{},
	}
	for _, m := range moves {
		one := moveOut{Text: m.Move.String(), Kind: string(m.Kind()), Side: orNone(string(m.Side()))}
		if m.Kind() == combo.Strike {
			if h := m.Hand(); h != combo.Both {
				one.Hand = orNone(string(h))
			}
			one.Target = orNone(target(m))
		}
		out.Moves = append(out.Moves, one)
	}
	for _, f := range combo.Flow(moves) {
		out.Flow = append(out.Flow, flowOut{f.Move, string(f.Code), f.Reason, f.Deliberate})
	}
	for _, n := range notes {
		out.Notes = append(out.Notes, noteOut{n.Column, n.Said, n.Read, n.Why})
	}
	return out, nil
}

func orNone(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func target(m combo.Placed) string {
	if m.ToBody() {
		return "body"
	}
	return "head"
}
