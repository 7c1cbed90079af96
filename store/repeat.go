package store

import (
	"time"
)

// RepeatRun makes a gym large: it repeats an ended round with all that was captured in it and came of it, so many
// times, each so much earlier than the one before, with so many of its hits. What it shows varies by a tenth. It is for
// gyms that are made up.
func (g *Gym) RepeatRun(runID string, times int, every time.Duration, hits int) error {
	return g.Together(func(in *Gym) error {
		return in.db.Exec(repeated, map[string]any{"run": runID, "gym": g.ID, "times": times,
			"every": every.Seconds(), "hits": hits}).Error
	})
}

// repeated copies a round. A copy is named by the round and its number, which no key hashes to.
const repeated = `
WITH made AS (
	INSERT INTO runs (gym_id, drill_id, assignment_id, rig_id, trainee_id, coach_id, drill_name, rung, eased, rig_doc,
		drill_doc, source, plays, state, ending, intake_hash, latency_us, clock_us, zone, seen_at, started_at, ended_at,
		predicted, created_at)
	SELECT r.gym_id, r.drill_id, r.assignment_id, r.rig_id, r.trainee_id, r.coach_id, r.drill_name, r.rung, r.eased,
		r.rig_doc, r.drill_doc, r.source, r.plays, r.state, r.ending, r.id || ' ' || n, r.latency_us, r.clock_us, r.zone,
		r.seen_at - n * x.step, r.started_at - n * x.step, r.ended_at - n * x.step, r.predicted,
		r.created_at - n * x.step
	FROM runs r, generate_series(1, @times) n, LATERAL (SELECT make_interval(secs => @every) AS step) x
	WHERE r.id = @run AND r.gym_id = @gym
	RETURNING id, gym_id, created_at, trainee_id
), lines AS (
	INSERT INTO timelines (run_id, gym_id, doc)
	SELECT m.id, m.gym_id, t.doc FROM made m, timelines t WHERE t.run_id = @run
), came AS (
	INSERT INTO outcomes (run_id, gym_id, conclusion, headline, scored, planned, hits, clean, missed, extra, offset_s, longest, passes,
		share, give, tempo, asked, counts, judged, wild, lasted, judged_at)
	SELECT m.id, m.gym_id, o.conclusion, o.headline, o.scored, o.planned, o.hits, o.clean, o.missed, o.extra, o.offset_s, o.longest, o.passes,
		least(1, o.share * (0.9 + 0.2 * random())), o.give, o.tempo, o.asked, o.counts, o.judged, o.wild, o.lasted,
		m.created_at
	FROM made m, outcomes o WHERE o.run_id = @run
), wrong AS (
	INSERT INTO faults (gym_id, run_id, code, place, cost, effect, spread, times)
	SELECT m.gym_id, m.id, f.code, f.place, f.cost, f.effect, f.spread, f.times FROM made m, faults f WHERE f.run_id = @run
), showed AS (
	INSERT INTO evidence (gym_id, trainee_id, run_id, figure, bag_kind, value, spread, origin, bound, note, found_at)
	SELECT m.gym_id, e.trainee_id, m.id, e.figure, e.bag_kind,
		CASE WHEN e.value > 0 THEN e.value * (0.95 + 0.1 * random()) ELSE e.value END, e.spread, e.origin, e.bound, e.note,
		m.created_at
	FROM made m, evidence e WHERE e.run_id = @run
)
INSERT INTO hits (gym_id, run_id, device, seq, at_us, hand, force, launch)
SELECT m.gym_id, m.id, h.device, h.seq, h.at_us, h.hand, h.force, h.launch
FROM made m, (SELECT *, row_number() OVER (ORDER BY at_us, seq) AS place FROM hits WHERE run_id = @run) h
WHERE h.place <= @hits`
