package ledger

import (
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"melodromos/core/ladder"
	"melodromos/core/words"
	"melodromos/format/document"
	"melodromos/store"
)

// person brings somebody in. Of somebody who is there already, what is known of them in the file and not here is added
// where the file is to be taken; nothing that is known here goes.
func (b *bringer) person(v document.Person) error {
	err := stands(b, "person", b.have.People, func(p document.Person) string { return p.Name },
		func(p *document.Person) *string { return &p.Key })
	if err != nil {
		return err
	}
	key := v.Key
	v.Key = ""
	id, same, err := b.match("person", v.Name, v)
	if err != nil {
		return err
	}
	row, err := traineeRow(v)
	if err != nil {
		return err
	}
	have := document.Person{}
	switch {
	case id == "":
		if err := b.gym.AddTrainee(&row); err != nil {
			return err
		}
		id = row.ID
		b.tell("person", v.Name, Added, knownOf(v), id)
	case same:
		b.tell("person", v.Name, Same, "", id)
		b.ids[key] = id
		return nil
	default:
		now, err := b.gym.Trainee(id)
		if err != nil {
			return err
		}
		if have, err = personDocument(b.gym, now); err != nil {
			return err
		}
		detail := differingDocs(have, v)
		if !b.how.Over {
			b.tell("person", v.Name, Differs, detail, id)
			b.ids[key] = id
			return nil
		}
		row.ID, row.Version = id, now.Version
		if err := b.gym.ChangeTrainee(&row); err != nil {
			return err
		}
		b.tell("person", v.Name, Changed, detail, id)
	}
	b.ids[key] = id
	if err := b.known(id, v, have); err != nil {
		return err
	}
	return b.gym.Reinstate(&store.Trainee{}, id, map[string]any{"archived_at": b.archived(v.Archived)})
}

func knownOf(p document.Person) string {
	var parts []string
	for _, c := range []struct {
		n    int
		what string
	}{{len(p.Evidence), "figure"}, {len(p.Cautions), "caution"}, {len(p.Decisions), "decision"}} {
		if c.n > 0 {
			parts = append(parts, words.Count(c.n, c.what))
		}
	}
	return strings.Join(parts, ", ")
}

func traineeRow(p document.Person) (store.Trainee, error) {
	usual := ladder.DefaultWeeks(time.Time{})
	row := store.Trainee{Name: p.Name, Stance: string(p.Stance), Band: string(p.Band), AgeBand: string(p.AgeBand),
		Height: p.Height, Reach: p.Reach, Eye: p.Eye, Mouth: p.Mouth, Chin: p.Chin, Notes: p.Notes, Goals: p.Goals,
		Dominant: string(p.Dominant), Weak: string(p.Weak), Sport: string(p.Sport), School: string(p.School),
		WeeksRounds: usual.Rounds, WeeksMost: usual.Most}
	for _, d := range usual.Days {
		row.WeeksDays = append(row.WeeksDays, int(d))
	}
	if p.Weeks != nil {
		weeks, err := p.Weeks.Plan()
		if err != nil {
			return row, err
		}
		row.WeeksFrom, row.WeeksDays = &weeks.From, p.Weeks.Days
		row.WeeksRounds, row.WeeksMost = weeks.Rounds, weeks.Most
	}
	return row, nil
}

// known adds what is known of somebody in the file and not here.
func (b *bringer) known(id string, v, have document.Person) error {
	var rows []store.Evidence
	for _, e := range missing(v.Evidence, have.Evidence) {
		rows = append(rows, store.Evidence{TraineeID: id, Figure: string(e.Figure), BagKind: orNil(string(e.Bag)),
			Value: e.Value, Spread: e.Spread, Origin: string(e.Origin), Bound: e.Bound, Note: e.Note, FoundAt: e.At})
	}
	if err := b.gym.AddEvidence(rows); err != nil {
		return err
	}
	for _, c := range missing(v.Cautions, have.Cautions) {
		row := store.Caution{TraineeID: id, Kind: string(c.Kind), Note: c.Note, SetBy: c.SetBy, LiftedBy: c.LiftedBy,
			LiftedAt: c.LiftedAt, CreatedAt: c.At}
		if err := b.gym.AddCaution(&row); err != nil {
			return err
		}
	}
	for _, d := range missing(v.Decisions, have.Decisions) {
		row := store.Decision{TraineeID: id, BagKind: string(d.Bag), Rung: d.Rung, Choice: string(d.Choice),
			Reason: d.Reason, Coach: d.Coach, CreatedAt: d.At}
		if err := b.gym.AddDecision(&row); err != nil {
			return err
		}
	}
	return nil
}

// missing are those of a list that do not stand in another, each as often as it is more.
func missing[T any](of, in []T) []T {
	text := func(v T) string {
		out, err := json.Marshal(v)
		if err != nil {
			return fmt.Sprint(v)
		}
		return string(out)
	}
	there := map[string]int{}
	for _, v := range in {
		there[text(v)]++
	}
	var list []T
	for _, v := range of {
		if t := text(v); there[t] > 0 {
			there[t]--
		} else {
			list = append(list, v)
		}
	}
	return list
}
