package ledger

import (
	"cmp"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/timetable"
	"melodromos/format/table"
	"melodromos/store"
)

// WriteLog writes the log as a table, of one trainee or of all where the id is empty: the ended rounds that were not
// removed, the oldest first.
func WriteLog(out io.Writer, gym *store.Gym, traineeID string) error {
	rows, err := gym.Runs(store.RunFilter{TraineeID: traineeID})
	if err != nil {
		return err
	}
	rigs, err := kinds(gym)
	if err != nil {
		return err
	}
	faults, err := gym.RunFaults(traineeID)
	if err != nil {
		return err
	}
	rows = slices.DeleteFunc(rows, func(r store.Logged) bool { return r.EndedAt == nil || r.StartedAt == nil })
	slices.SortStableFunc(rows, func(a, b store.Logged) int {
		return cmp.Or(a.StartedAt.Compare(*b.StartedAt), cmp.Compare(a.Trainee, b.Trainee), cmp.Compare(a.Rig, b.Rig))
	})
	w, err := table.WriteLog(out)
	if err != nil {
		return err
	}
	for _, r := range rows {
		row := roundRow(r, faults[r.ID])
		row.Kind = rigs[r.RigID]
		if err := w.Row(row); err != nil {
			return err
		}
	}
	return w.Done()
}

func kinds(gym *store.Gym) (map[string]string, error) {
	list := map[string]string{}
	for _, shelf := range []store.Shelf{store.InUse, store.Archived} {
		rows, err := gym.Rigs(shelf)
		if err != nil {
			return nil, err
		}
		for _, r := range rows {
			list[r.ID] = r.Kind
		}
	}
	return list, nil
}

func roundRow(r store.Logged, faults []store.Fault) table.Round {
	out := table.Round{Started: *r.StartedAt, Person: r.Trainee, Bag: r.Rig, Drill: r.DrillName, Rung: r.Rung,
		Eased: string(r.Eased), Recorded: r.Source, Ended: r.Ending, Zone: r.Zone, Predicted: r.Predicted,
		Faults: faultsText(faults)}
	if o := r.Outcome; o != nil {
		share, give := o.Share, o.Give
		out.Lasted, out.Judged, out.Counts, out.Wild = o.Lasted, o.Judged, o.Counts, o.Wild
		out.Headline = Summary(*o, judge.Ended(r.Ending)).Headline
		out.Planned, out.Hits, out.Clean, out.Missed, out.Extra = o.Planned, o.Hits, o.Clean, o.Missed, o.Extra
		out.Longest, out.Passes, out.Share, out.Give = o.Longest, o.Passes, &share, &give
		out.Tempo, out.Asked, out.Offset = o.Tempo, o.Asked, o.OffsetS
		out.Figure, out.Value, out.Spread, out.Steps = orZero(o.RigParameter), o.RigValue, o.RigSpread, o.RigSteps
	}
	if s := r.Rating; s != nil {
		out.RatedClean, out.RatedOf, out.RatedWord, out.RatedBy, out.Note = s.Clean, s.OutOf, s.Word, s.Coach, s.Note
	}
	return out
}

// faultsText writes the faults of a round into one cell: code, cost, effect, its error and how often, of each.
func faultsText(list []store.Fault) string {
	number := func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
	parts := make([]string, len(list))
	for i, f := range list {
		parts[i] = strings.Join([]string{f.Code, number(f.Cost), number(f.Effect), number(f.Spread),
			strconv.Itoa(f.Times)}, " ")
	}
	return strings.Join(parts, "; ")
}

func faultsOf(cell string) ([]store.Fault, error) {
	var list []store.Fault
	for part := range strings.SplitSeq(cell, "; ") {
		if part == "" {
			continue
		}
		var f store.Fault
		fields := strings.Fields(part)
		if len(fields) != 5 || fault.Code(fields[0]).Name() == "" {
			return nil, fmt.Errorf("faults: expected code, cost, effect, its error and how often, not %q", part)
		}
		f.Code = fields[0]
		for i, into := range []*float64{&f.Cost, &f.Effect, &f.Spread} {
			v, err := strconv.ParseFloat(fields[1+i], 64)
			if err != nil || math.IsNaN(v) || math.IsInf(v, 0) || v < 0 && i != 1 {
				return nil, fmt.Errorf("faults: expected a number, not %q", fields[1+i])
			}
			*into = v
		}
		n, err := strconv.Atoi(fields[4])
		if err != nil || n < 0 {
			return nil, fmt.Errorf("faults: expected how often, not %q", fields[4])
		}
		f.Times = n
		if slices.ContainsFunc(list, func(o store.Fault) bool { return o.Code == f.Code }) {
			return nil, fmt.Errorf("faults: %s stands twice", f.Code)
		}
		list = append(list, f)
	}
	return list, nil
}

// names finds people, bags and drills by what they are called.
type names struct {
	people, bags, drills map[string][]string // ids
	kinds                map[string]string   // of bags
	held                 map[store.Moment]store.Held
	now                  time.Time
}

func namesOf(gym *store.Gym) (names, error) {
	n := names{now: gym.Now(),
		people: map[string][]string{}, bags: map[string][]string{}, drills: map[string][]string{}}
	var failed error
	for _, shelf := range []store.Shelf{store.InUse, store.Archived} {
		people, e1 := gym.Trainees(shelf)
		bags, e2 := gym.Rigs(shelf)
		drills, e3 := gym.Drills(shelf)
		failed = errors.Join(failed, e1, e2, e3)
		for _, p := range people {
			n.people[p.Name] = append(n.people[p.Name], p.ID)
		}
		for _, b := range bags {
			n.bags[b.Name] = append(n.bags[b.Name], b.ID)
		}
		for _, d := range drills {
			n.drills[d.Kind+" "+d.Name] = append(n.drills[d.Kind+" "+d.Name], d.ID)
		}
	}
	var e1, e2 error
	n.kinds, e1 = kinds(gym)
	n.held, e2 = gym.Moments()
	return n, errors.Join(failed, e1, e2)
}

// moment returns the key that tells a round apart; a person or bag that is not here, or here twice, is refused.
func (n names) moment(started time.Time, person, bag, kind string) (store.Moment, error) {
	m := store.Moment{Started: started.UTC().Truncate(time.Microsecond)}
	if person != "" {
		ids := n.people[person]
		if len(ids) != 1 {
			return m, fmt.Errorf("person: %s", unclear(len(ids), person, "nobody"))
		}
		m.TraineeID = ids[0]
	}
	var ids []string
	for _, id := range n.bags[bag] {
		if kind == "" || n.kinds[id] == kind {
			ids = append(ids, id)
		}
	}
	if len(ids) != 1 {
		return m, fmt.Errorf("bag: %s", unclear(len(ids), bag, "no bag"))
	}
	m.RigID = ids[0]
	return m, nil
}

func unclear(n int, name, none string) string {
	if n == 0 {
		return fmt.Sprintf("%s here is called %q; put them in first", none, name)
	}
	return fmt.Sprintf("%d here are called %q; tell them apart by their names first", n, name)
}

// BringLog brings a log into a gym: rounds that are not here are added, told by their figures alone; those that are
// here stay as they are. All of it is brought in, or nothing.
func BringLog(gym *store.Gym, in io.Reader, dry bool) ([]Brought, error) {
	told := newTold()
	err := gym.Tried(dry, func(in2 *store.Gym) error {
		n, err := namesOf(in2)
		if err != nil {
			return err
		}
		seen := map[store.Moment]int{}
		b := logBringer{gym: in2}
		err = table.ReadLog(in, func(line int, r table.Round) error {
			m, err := n.moment(r.Started, r.Person, r.Bag, r.Kind)
			if err != nil {
				return err
			}
			if at := seen[m]; at > 0 {
				return fmt.Errorf("this round stands on line %d already", at)
			}
			seen[m] = line
			name := r.Person
			if name == "" {
				name = "somebody who was erased"
			}
			if _, here := n.held[m]; here {
				told.add("round", name, Same)
				return nil
			}
			told.add("round", name, Added)
			round, err := n.round(m, r)
			if err != nil {
				return err
			}
			return b.add(line, round)
		})
		if err == nil {
			err = b.flush()
		}
		return err
	})
	return told.list(), err
}

// atOnce is the number of rounds that are stored together.
const atOnce = 500

// logBringer stores rounds many at a time.
type logBringer struct {
	gym   *store.Gym
	list  []store.Brought
	lines []int
	times int // that it was done
}

func (b *logBringer) add(line int, r store.Brought) error {
	b.list, b.lines = append(b.list, r), append(b.lines, line)
	if len(b.list) < atOnce {
		return nil
	}
	return b.flush()
}

// flush stores what waits. What the database refuses is looked for round by round, so that the refusal names its line.
func (b *logBringer) flush() error {
	list, lines := b.list, b.lines
	b.list, b.lines = nil, nil
	err := b.gym.AddBrought(list)
	if b.times++; err == nil && b.times&(b.times-1) == 0 { // the first, second, fourth, eighth time
		err = b.gym.Analyze()
	}
	if err == nil || errors.Is(err, store.ErrUnavailable) {
		return err
	}
	for i := range list {
		if alone := b.gym.AddBrought(list[i : i+1]); alone != nil {
			return input.Refuse("", "line %d: %s", lines[i], alone)
		}
	}
	return err
}

// round is a round as it is stored, with all that is said of it.
func (n names) round(m store.Moment, r table.Round) (store.Brought, error) {
	var (
		b   store.Brought
		err error
	)
	if b.Run, err = n.run(m, r); err != nil {
		return b, err
	}
	if b.Outcome, err = broughtOutcome(r); err != nil {
		return b, err
	}
	if b.Faults, err = faultsOf(r.Faults); err != nil {
		return b, err
	}
	if err := run.ByEye(r.RatedClean, r.RatedOf); err != nil {
		return b, fmt.Errorf("rated %w", err)
	}
	if r.RatedOf != nil || r.RatedWord != "" || r.Note != "" {
		b.Rating = &store.Rating{Clean: r.RatedClean, OutOf: r.RatedOf, Word: r.RatedWord, Note: r.Note,
			Coach: r.RatedBy}
	}
	return b, nil
}

// run is a round that came in as a table, as it is stored.
func (n names) run(m store.Moment, r table.Round) (store.Run, error) {
	kind := n.kinds[m.RigID]
	started, ended := m.Started, m.Started.Add(time.Duration(orZero(r.Lasted)*1e6)*time.Microsecond)
	row := store.Run{RigID: m.RigID, TraineeID: orNil(m.TraineeID), DrillName: cmp.Or(r.Drill, rig.Kind(kind).Name()),
		Rung: r.Rung, Eased: level.ReadOneThing(r.Eased), RigDoc: store.Doc("{}"), DrillDoc: store.Doc("{}"),
		Source: cmp.Or(r.Recorded, string(drill.Nothing)), Plays: string(drill.PlayBeat), Ending: cmp.Or(r.Ended,
			"bell"),
		IntakeHash: "brought " + rand.Text(), Zone: cmp.Or(r.Zone, "UTC"), SeenAt: n.now, StartedAt: &started,
		EndedAt:   &ended,
		Predicted: r.Predicted, BroughtAt: &n.now, CreatedAt: started, ClockUS: int64(orZero(r.Lasted) * 1e6)}
	if row.State = "done"; row.Ending != "bell" {
		row.State = "stopped"
	}
	if _, err := timetable.Zone("zone", row.Zone); err != nil {
		return row, err
	}
	if ids := n.drills[kind+" "+r.Drill]; len(ids) > 0 {
		row.DrillID = ids[0]
	}
	return row, nil
}

func broughtOutcome(r table.Round) (store.Outcome, error) {
	o := store.Outcome{Headline: r.Headline, Planned: r.Planned, Hits: r.Hits, Clean: r.Clean, Missed: r.Missed,
		Extra: r.Extra, OffsetS: r.Offset, Longest: r.Longest, Passes: r.Passes, Give: orZero(r.Give), Tempo: r.Tempo,
		Asked: r.Asked, Counts: r.Counts, Judged: r.Judged, Wild: r.Wild, Lasted: r.Lasted}
	switch {
	case r.Share != nil:
		o.Share = *r.Share
	case r.Planned > 0:
		o.Share = math.Min(1, float64(r.Clean)/float64(r.Planned))
	}
	switch {
	case r.Clean > max(r.Hits, r.Planned):
		return o, fmt.Errorf("clean: expected at most the %d hits, not %d", max(r.Hits, r.Planned), r.Clean)
	case r.Longest > max(r.Hits, r.Planned):
		return o, fmt.Errorf("longest: expected at most the %d hits, not %d", max(r.Hits, r.Planned), r.Longest)
	case r.Tempo != nil && *r.Tempo <= 0, r.Asked != nil && *r.Asked <= 0:
		return o, errors.New("tempo: expected more than 0, or nothing where it is not known")
	}
	told := 0
	for _, there := range []bool{r.Figure != "", r.Value != nil, r.Spread != nil, r.Steps != nil} {
		if there {
			told++
		}
	}
	if told != 0 && told != 4 {
		return o, errors.New("bag figure: expected its name, value, spread and steps, or none of them")
	}
	if told == 4 {
		o.RigParameter, o.RigValue, o.RigSpread, o.RigSteps = &r.Figure, r.Value, r.Spread, r.Steps
	}
	return o, nil
}

// told sums up what happens to many of the same sort, by whose they are.
type told struct {
	n     map[Brought]int
	order []Brought
}

func newTold() *told { return &told{n: map[Brought]int{}} }

func (t *told) add(what, name string, does Does) {
	b := Brought{What: what, Name: name, Does: does}
	if t.n[b]++; t.n[b] == 1 {
		t.order = append(t.order, b)
	}
}

func (t *told) list() []Brought {
	list := make([]Brought, len(t.order))
	for i, b := range t.order {
		list[i] = b
		list[i].Count = t.n[b]
	}
	return list
}
