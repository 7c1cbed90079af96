package main

import (
	"math"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/standin"
)

// life is a simulated learner with a bag of their own, and what befalls them.
type life struct {
	name, about string
	bags        []rig.Rig // the first is the one they begin on
	weeks       int
	seed        uint64
	band        trainee.Band                           // as the coach enters them
	able        func(rounds, week int) trainee.Ability // what they really can do, after so many rounds
	away        func(week int) bool                    // nil for never
	held        func(week int) []caution.Type          // cautions that stand; nil for none
}

// lived is a round of a life, or an evening on which nothing could be done.
type lived struct {
	at            time.Time
	day           float64 // since the beginning
	week          int
	proposal      roster.Proposal
	Clean         float64
	Longest       int
	through       bool
	level.Outcome // beside what was said of it beforehand
}

// live walks a ladder as the product has somebody walk it: sessions on two days of each week, half of their rounds on
// the rung, what comes next by everything that was judged until then.
func (l life) live() ([]lived, []ladder.Rung) {
	from := time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC)
	m := roster.Member{ID: "learner", Name: l.name, Stance: combo.Orthodox, Band: l.band, School: ladder.BasicFirst}
	cl := roster.Roster{Members: []roster.Member{m}, Gate: ladder.DefaultGate, Zone: time.UTC}
	for _, b := range l.bags {
		cl.Bags = append(cl.Bags, roster.Bag{ID: string(b.Kind()), Name: b.Kind().Name(), Rig: b})
	}
	who := &cl.Members[0]
	var list []lived
	for _, s := range ladder.DefaultWeeks(from).Plan(l.weeks, nil, from) {
		if l.away != nil && l.away(s.Week) {
			continue
		}
		who.Cautions = nil
		if l.held != nil {
			if who.Cautions = l.held(s.Week); len(who.Cautions) > 0 {
				who.Spared = append(who.Spared, roster.Spell{From: s.Day, To: s.Day.AddDate(0, 0, 1)})
			}
		}
		for n := range max(1, s.Rounds/2) {
			at := s.Day.Add(18*time.Hour + time.Duration(5*n)*time.Minute)
			cl.Now = at
			p, err := l.next(cl, who)
			if err != nil {
				panic(err)
			}
			one := lived{at: at, day: at.Sub(from).Hours() / 24, week: s.Week, proposal: p}
			if p.Barred != "" {
				list = append(list, one)
				break
			}
			l.round(&one, cl, who, cl.Bag(p.RigID), len(who.Rounds))
			list = append(list, one)
		}
	}
	return list, ladder.Rungs(l.bags[0].Kind(), who.School)
}

// next returns the learner's next drill: on the first bag to begin with.
func (l life) next(cl roster.Roster, who *roster.Member) (roster.Proposal, error) {
	if len(who.Rounds) == 0 {
		return cl.OnBag(who, &cl.Bags[0])
	}
	p, _, err := cl.Next(who)
	return p, err
}

// round runs the proposed drill before a bag of the learner's own, has it judged, and lets the class know.
func (l life) round(one *lived, cl roster.Roster, who *roster.Member, bag *roster.Bag, rounds int) {
	on := cl.Floor(who, bag)
	on.Seed = uint64(rounds + 1)
	p := one.proposal
	prepared, err := run.Prepare(p.Doc.Plan, on, drill.Simulated, "")
	if err != nil {
		panic(err)
	}
	line := prepared.Timeline
	var own standin.Bag
	if line.Clock == drill.ByBag {
		if own, err = standin.Before(bag.Rig, prepared.Plan, line, 7); err != nil { // the same bag each time
			panic(err)
		}
	}
	exact := drill.Micros(0)
	record := run.Record{
		Opened: run.Opened{Bag: bag.Rig, Plan: prepared.Plan, Timeline: line, By: drill.Simulated,
			Plays: prepared.Plays},
		Latency: &exact, Until: line.End, Band: who.Band,
	}
	person := standin.PersonWith(l.able(rounds, one.week))
	for _, h := range person.Play(standin.Strikes(line, prepared.Plan, bag.Kind()), own, line.End.Seconds(),
		100+l.seed+uint64(rounds)).Hits {
		record.Hits = append(
			record.Hits,
			run.CapturedHit{At: drill.Micros(math.Round(h.At * 1e6)), Hand: drill.Hand(h.Hand),
				Launch: h.Launch},
		)
	}
	j := record.Judge()
	s := j.Summary
	r := run.PastRound{
		At: one.at, Bag: bag.ID, Rung: p.Rung, Eased: p.Eased != "", Counts: s.Counts, Share: s.Share,
		Longest: s.Longest, Planned: s.Planned,
		Passes: s.Passes, Tempo: s.Tempo, Asked: s.Asked, Predicted: math.NaN(),
	}
	if prepared.Predicted != nil {
		r.Predicted = *prepared.Predicted
	}
	one.Clean, one.Longest = s.Share, s.Longest
	one.through = cl.Gate.Passes(run.PastRound{Share: s.Share, Longest: s.Longest, Planned: s.Planned, Eased: r.Eased})
	one.Outcome = level.Outcome{Predicted: *p.Clean, Observed: s.Share, Strikes: s.Planned}
	who.Evidence = append(who.Evidence, j.Shows(on.Ability, one.at)...)
	who.Rounds = append(who.Rounds, r)
}
