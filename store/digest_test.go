package store_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"melodromos/store"
	"melodromos/store/storetest"
)

// known reads what is known of somebody as proposals do, and holds it against the rows that it comes from.
func known(t *testing.T, g *store.Gym, traineeID string) (all store.Digest) {
	t.Helper()
	_, err := g.Revisions(traineeID)
	must(t, err)
	packed, err := g.Digests([]string{traineeID})
	must(t, err)
	whole, err := g.Whole(traineeID)
	must(t, err)
	if got, want := told(packed[traineeID]), told(whole); got != want {
		t.Errorf("packed: %s\n whole: %s", got, want)
	}
	for _, d := range packed[traineeID] {
		all.Rounds, all.Evidence = append(all.Rounds, d.Rounds...), append(all.Evidence, d.Evidence...)
	}
	return all
}

// told writes digests with what is packed of them alone.
func told(list []store.Digest) string {
	list = slices.Clone(list)
	for i := range list {
		list[i].Rounds = append([]store.Round{}, list[i].Rounds...)
		list[i].Evidence = append([]store.Evidence{}, list[i].Evidence...)
		for k := range list[i].Rounds {
			list[i].Rounds[k].CreatedAt = list[i].Rounds[k].CreatedAt.UTC()
		}
		for k, e := range list[i].Evidence {
			list[i].Evidence[k] = store.Evidence{TraineeID: e.TraineeID, Figure: e.Figure, BagKind: e.BagKind,
				Value: e.Value, Spread: e.Spread, Origin: e.Origin, Bound: e.Bound, FoundAt: e.FoundAt.UTC()}
		}
	}
	text, err := json.Marshal(list)
	if err != nil {
		return err.Error()
	}
	return string(text)
}

// Whatever changes a round, a test or who is there, and in whatever way, what is packed says what the rows say.
func TestDigestsAreTheWhole(t *testing.T) {
	s := storetest.Open(t)
	g, coach := storetest.Gym(t, s, "A")
	first := furnish(t, g, coach)
	person := *first.TraineeID
	now := time.Now().UTC().Truncate(time.Microsecond)
	kind := "speed"
	var ids []string
	for i := range 5 {
		r := first
		at := now.Add(-time.Duration(i) * time.Hour)
		r.ID, r.IntakeHash, r.CreatedAt = "", fmt.Sprint("hash ", i), at
		must(t, g.AddRun(&r, store.Doc(line)))
		ids = append(ids, r.ID)
		_, err := g.MoveRun(r.ID, func(r *store.Run) error {
			r.State, r.Ending, r.StartedAt, r.EndedAt = "done", "bell", &at, &at
			return nil
		}, func(in *store.Gym, r store.Run) error {
			tempo := 120.5 + float64(i)/3
			return in.SetOutcome(store.Outcome{RunID: r.ID, Headline: "H", Planned: 10 + i, Longest: i,
				Share: 1 / float64(3+i), Tempo: &tempo, Counts: i%2 == 0, Judged: true, Wild: i == 3}, nil,
				[]store.Evidence{{TraineeID: person, Figure: "timing", BagKind: &kind, Value: 0.05 / float64(1+i),
					Spread: 0.01, Origin: "rounds", FoundAt: at}})
		})
		must(t, err)
		if k := known(t, g, person); len(k.Rounds) != i+1 || len(k.Evidence) != i+1 {
			t.Fatalf("after round %d: %d rounds, %d pieces of evidence", i, len(k.Rounds), len(k.Evidence))
		}
	}
	revs := func() string {
		list, err := g.Revisions(person)
		must(t, err)
		return list[0].Revs
	}
	before := revs()
	if again := revs(); again != before {
		t.Errorf("read twice: %s, then %s", before, again)
	}
	steps := []struct {
		what string
		do   func() error
	}{
		{"judged anew", func() error {
			return g.SetOutcome(store.Outcome{RunID: ids[0], Headline: "H", Planned: 10, Share: 0.25, Counts: true,
				Judged: true}, nil, nil)
		}},
		{"removed", func() error { return g.RemoveRun(ids[1]) }},
		{"brought back", func() error {
			_, err := g.MoveRun(ids[1], func(r *store.Run) error { r.RemovedAt = nil; return nil }, nil)
			return err
		}},
		{"a test", func() error {
			return g.AddEvidence([]store.Evidence{{TraineeID: person, Figure: "sight", Value: 0.2, Spread: 0.01,
				Origin: "tested", Bound: true, FoundAt: now}})
		}},
		{"changed by hand", func() error {
			return s.DB().Exec("UPDATE runs SET created_at = created_at - interval '3 days' WHERE id = ?", ids[2]).Error
		}},
		{"evidence changed by hand", func() error {
			return s.DB().Exec("UPDATE evidence SET value = 0.07 WHERE run_id = ?", ids[3]).Error
		}},
		{"a round deleted by hand", func() error { return s.DB().Exec("DELETE FROM runs WHERE id = ?", ids[4]).Error }},
		{"a digest spoiled by hand", func() error {
			return s.DB().Exec("UPDATE digests SET rounds = 'x', evidence = '', rev = nextval('digest_revisions')").Error
		}},
		{"all made anew", func() error { _, err := g.RebuildDigests(); return err }},
	}
	for _, step := range steps {
		t.Run(step.what, func(t *testing.T) {
			must(t, step.do())
			known(t, g, person)
			if now := revs(); now == before {
				t.Error("it has the same revision")
			} else {
				before = now
			}
		})
	}
	if k := known(t, g, person); len(k.Rounds) != 4 || len(k.Evidence) < 3 {
		t.Errorf("at the end %d rounds, %d pieces of evidence", len(k.Rounds), len(k.Evidence))
	}
}

// FuzzUnpack: whatever lies in a digest, reading it ends, and what is known comes from the rows then.
func FuzzUnpack(f *testing.F) {
	f.Add([]byte{1, 2, 0, 0}, []byte{1, 200, 200, 3})
	f.Fuzz(func(t *testing.T, rounds, evidence []byte) {
		d, err := store.Unpack(rounds, evidence)
		if err == nil && len(d.Rounds)+len(d.Evidence) > len(rounds)+len(evidence) {
			t.Errorf("%d rounds and %d pieces of evidence out of %d bytes", len(d.Rounds), len(d.Evidence),
				len(rounds)+len(evidence))
		}
	})
}
