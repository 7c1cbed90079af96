package roster

import (
	"errors"
	"fmt"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"

	"melodromos/core/answer"
	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Proposal names the drill that somebody does next on a bag, and the reason.
type Proposal struct {
	TraineeID    string           `json:"traineeId"`
	Trainee      string           `json:"trainee"`
	Kind         rig.Kind         `json:"kind"`
	RigID        string           `json:"rigId"`
	RigName      string           `json:"rigName"`
	AssignmentID string           `json:"assignmentId" doc:"of the drill, where this person has it on this bag already; empty where it is to be taken"`
	Rung         string           `json:"rung" doc:"key; empty for a drill of the coach's own"`
	Name         string           `json:"name"`
	Note         string           `json:"note"`
	Index        int              `json:"index" doc:"of the rung, from 0"`
	Standing     int              `json:"standing" doc:"first rung whose gate is not passed"`
	Of           int              `json:"of"`
	Move         ladder.Direction `json:"move"`
	Target       int              `json:"target" doc:"to beat, in a row"`
	Why          string           `json:"why"`
	Barred       string           `json:"barred" doc:"why nothing can be done; empty where something can"`
	Eased        level.OneThing   `json:"eased" doc:"what is easier than the rung has it; empty where nothing is"`
	Spared       []string         `json:"spared" doc:"what is softer or shorter for a caution, and why"`
	Doc          drill.Doc        `json:"doc"`
	Level        *float64         `json:"level"`
	Clean        *float64         `json:"clean" doc:"predicted"`
	Longest      *float64         `json:"run" doc:"longest in a row to expect"`

	Failed string `json:"-"` // what failed in working it out; for the log

	spent bool // past the last gate, and nothing is harder
	soft  bool // to be done softer than the plan has it
	// before any caution was looked at: what is given, so that a caution that is lifted leaves no trace
	plan drill.Plan
}

// Plan is the drill as it is given, whatever cautions stand: they are looked at anew before each round.
func (p Proposal) Plan() drill.Plan { return p.plan }

// DrillName returns the name of the drill of a proposal.
func (p Proposal) DrillName() string {
	if p.Eased == "" {
		return p.Name
	}
	return p.Name + ", " + p.Eased.Words()
}

// Next returns somebody's next drill: the one answer, on every page. A drill that a coach gave by hand and that was not
// run yet comes first; then what the ladder proposes on the bag they go on with; where nothing of that may be done, or
// nothing is left of it, another bag. False where no bag hangs.
func (c Roster) Next(m *Member) (Proposal, bool, error) {
	if a := c.givenByHand(m); a != nil {
		p, err := c.proposeGiven(m, a)
		return p, true, err
	}
	first := c.MainKind(m)
	if first == "" {
		return Proposal{}, false, nil
	}
	var fallback Proposal
	kinds := append([]rig.Kind{first}, slices.DeleteFunc(c.Kinds(), func(k rig.Kind) bool { return k == first })...)
	for i, kind := range kinds {
		p, err := c.On(m, kind)
		if err != nil {
			return p, true, err
		}
		if p.Barred == "" && !p.spent {
			if i > 0 { // why it is not the bag they go on with
				why := fallback.Why
				if fallback.Barred != "" {
					why = fmt.Sprintf("Not on the %s for now, %s.", fallback.RigName, fallback.Barred)
				}
				p.Why = why + " " + p.Why
			}
			return p, true, nil
		}
		if i == 0 {
			fallback = p
		}
	}
	return fallback, true, nil
}

// Everybody gives what each does next, in the order of the members. It is worked out on all processors.
func (c Roster) Everybody() ([]Proposal, error) {
	list := make([]Proposal, len(c.Members))
	found := make([]bool, len(c.Members))
	errs := make([]error, len(c.Members))
	turn := make(chan int)
	var work sync.WaitGroup
	for range min(len(c.Members), runtime.GOMAXPROCS(0)) {
		work.Go(func() {
			for i := range turn {
				list[i], found[i], errs[i] = c.oneNext(&c.Members[i])
			}
		})
	}
	for i := range c.Members {
		turn <- i
	}
	close(turn)
	work.Wait()
	out := []Proposal{}
	for i, p := range list {
		if found[i] {
			out = append(out, p)
		}
	}
	return out, errors.Join(errs...)
}

// oneNext is Next for one of many: what fails in it, a panic too, is said in the proposal of this one, and only being
// stopped is an error.
func (c Roster) oneNext(m *Member) (p Proposal, found bool, err error) {
	failed := func(why any) {
		p = Proposal{TraineeID: m.ID, Trainee: m.Name, Spared: []string{}, Failed: fmt.Sprint(why),
			Barred: "what comes next could not be worked out", Why: "What comes next could not be worked out."}
		if len(c.Bags) > 0 {
			p.Kind, p.RigID, p.RigName = c.Bags[0].Kind(), c.Bags[0].ID, c.Bags[0].Name
		}
		found, err = true, nil
	}
	defer func() {
		if what := recover(); what != nil {
			failed(fmt.Sprintf("panic: %v\n%s", what, debug.Stack()))
		}
	}()
	if p, found, err = c.Next(m); err != nil && c.stopped() == nil {
		failed(err)
	}
	return p, found, err
}

// On returns what the ladder proposes to somebody on a kind of bag that hangs.
func (c Roster) On(m *Member, kind rig.Kind) (Proposal, error) { return c.OnBag(m, c.BagFor(m, kind)) }

// OnBag returns what the ladder proposes to somebody on a bag.
func (c Roster) OnBag(m *Member, b *Bag) (Proposal, error) {
	on := c.Floor(m, b)
	career := c.career(m, b.Kind(), on)
	p := career.Propose()
	out := c.begin(m, b)
	out.Rung, out.Name, out.Note, out.Index, out.Of = p.Rung.Key, p.Rung.Name, p.Rung.Note, p.Index, len(career.Rungs)
	out.Standing, out.Move, out.Target, out.Why, out.Barred = career.Standing(), p.Move, p.Target, p.Why, p.Barred
	if p.Move == ladder.Top && c.failing(m, b.Kind(), p.Rung.Key) {
		out.Move, out.Why = ladder.Again,
			fmt.Sprintf("All rungs passed, but the last %s rounds fell short: this as it is, then harder again.",
				words.Number(ladder.FailsInRow))
	}
	plan := p.Rung.Plan
	if a := c.assigned(m, out); a != nil && a.Own {
		plan = a.Plan
	}
	out.soft = p.Soft
	return c.lay(m, out, plan, on)
}

// failing says whether the last rounds on a kind of bag, on its last rung or past it, all failed the gate.
func (c Roster) failing(m *Member, kind rig.Kind, last string) bool {
	failed := 0
	for i := len(m.Rounds) - 1; i >= 0 && failed < ladder.FailsInRow; i-- {
		r := m.Rounds[i]
		if b := c.Bag(r.Bag); b == nil || b.Kind() != kind || !r.Counts {
			continue
		}
		if r.Rung != "" && r.Rung != last || c.Gate.Passes(r) {
			return false
		}
		failed++
	}
	return failed == ladder.FailsInRow
}

func (c Roster) begin(m *Member, b *Bag) Proposal {
	return Proposal{TraineeID: m.ID, Trainee: m.Name, Kind: b.Kind(), RigID: b.ID, RigName: b.Name, Spared: []string{}}
}

// lay fills in the drill as it is to be run, how hard it is and how it will go.
func (c Roster) lay(m *Member, out Proposal, p drill.Plan, on drill.Floor) (Proposal, error) {
	p, err := drill.InSchool(drill.InStance(p, m.Stance), c.Voice).For(on)
	if err != nil {
		return barred(out, err)
	}
	if out.soft {
		p = level.UnderControl(p, on)
	}
	switch ladder.Direction(out.Move) {
	case ladder.Easier, ladder.Top:
		if p, err = c.otherwise(m, &out, p, on); err != nil {
			return barred(out, err)
		}
	}
	if a := c.assigned(m, out); a != nil {
		if out.AssignmentID = a.ID; a.Own {
			p, out.Name = a.Plan, a.Name
			out.Why += " With your settings."
			if out.soft {
				out.Why += " This won’t be eased for you; change it first."
			}
		}
	}
	out.plan = p
	spared := caution.Spare(m.Cautions, p, on)
	if out.Doc.Plan = spared.Plan; spared.Held == "" {
		out.Spared = answer.List(spared.Changes)
	}
	t, err := out.Doc.Plan.Lay(on)
	if err != nil {
		return barred(out, err)
	}
	g, err := level.Graded(out.Doc.Plan, t, on)
	if err != nil {
		return out, err
	}
	f := c.fit(m, out.Doc.Plan, t, on)
	out.Level, out.Clean, out.Longest = &g.Level, &f.Clean, &f.LongestStreak
	return out, c.stopped()
}

// otherwise changes one thing of a drill: an easier one where a rung keeps failing, a harder one past the last gate.
// Where nothing is harder, the proposal is spent.
func (c Roster) otherwise(m *Member, out *Proposal, p drill.Plan, on drill.Floor) (drill.Plan, error) {
	t, err := p.Lay(on)
	if err != nil {
		return p, err
	}
	f := c.fit(m, p, t, on)
	if out.Move == ladder.Easier {
		n, ok := level.Easier(p, on, f)
		if !ok { // nothing helps by the model: softer does at the bag
			n.By, n.Plan = level.Softer, level.UnderControl(p, on)
		}
		out.Eased = n.By
		out.Why += " " + words.Upper(n.By.Words()) + " today, then back to normal."
		return n.Plan, nil
	}
	g, err := level.Graded(p, t, on)
	if err != nil {
		return p, err
	}
	n, ok := level.Harder(p, on, g, f)
	if !ok {
		out.spent = true
		out.Why += " Beat your own best."
		return p, nil
	}
	out.Name += ", " + n.By.Words()
	out.Why += " One thing harder: " + n.By.Words() + "."
	out.Rung = ladder.Match(n.Plan, on.Bag.Kind())
	return n.Plan, nil
}

// barred is a proposal that this bag, as it hangs, does not allow: then that is what is said.
func barred(out Proposal, err error) (Proposal, error) {
	var refusal *input.Error
	if !errors.As(err, &refusal) {
		return out, err
	}
	out.Barred, out.Move, out.Why = refusal.Reason, ladder.Barred, "Not on this bag as it hangs: "+refusal.Reason+"."
	return out, nil
}

// assigned is the newest assignment that a proposal would make; nil where there is none.
func (c Roster) assigned(m *Member, p Proposal) *Assignment {
	for i := len(m.Given) - 1; i >= 0; i-- {
		if a := &m.Given[i]; a.Bag == p.RigID && p.Rung != "" && a.Rung == p.Rung && a.Eased == p.Eased {
			return a
		}
	}
	return nil
}

func (c Roster) stopped() error {
	if c.Stop == nil {
		return nil
	}
	return c.Stop()
}
