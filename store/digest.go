package store

import (
	"cmp"
	"encoding/binary"
	"errors"
	"math"
	"melodromos/core/level"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// digest packs what is known of a person from their rounds on a bag, or, under the empty id, without one.
type digest struct {
	GymID     string
	TraineeID string
	RigID     string
	Rev       int64
	Stale     bool
	Rounds    []byte
	Evidence  []byte
}

// noRig is the bag of what was found without one.
const noRig = nobody

// Digest sums up a person's rounds on a bag, each list the oldest first.
type Digest struct {
	Rounds   []Round
	Evidence []Evidence
}

// Revision tells one state of all that is known of somebody from another.
type Revision struct {
	TraineeID string
	Revs      string // of their digests
}

// Revisions lists how what is known of a trainee stands, of all who are not archived where the id is empty. What is
// stale is made anew first.
func (g *Gym) Revisions(traineeID string) ([]Revision, error) {
	if err := g.freshen(); err != nil {
		return nil, err
	}
	q := g.db.Table("digests d").Where("d.gym_id = ?", g.ID).Group("d.trainee_id").
		Select("d.trainee_id, string_agg(d.rev::text, ' ' ORDER BY d.rig_id) AS revs")
	if traineeID != "" {
		q = q.Where("d.trainee_id = ?", traineeID)
	} else {
		q = q.Joins("JOIN trainees t ON t.gym_id = d.gym_id AND t.id = d.trainee_id AND t.archived_at IS NULL")
	}
	var list []Revision
	return list, ownError(q.Find(&list).Error)
}

// Digests reads what is known of some people, by person.
func (g *Gym) Digests(trainees []string) (map[string][]Digest, error) {
	out := map[string][]Digest{}
	if len(trainees) == 0 {
		return out, nil
	}
	var rows []digest
	if err := g.rows().Where("trainee_id IN ?", trainees).Order("trainee_id, rig_id").Find(&rows).Error; err != nil {
		return nil, ownError(err)
	}
	for _, row := range rows {
		d, err := row.unpacked()
		if err != nil { // nothing is lost: it is made anew from what it was made from
			found, err := g.whole("d.trainee_id = ? AND d.rig_id = ?", row.TraineeID, row.RigID)
			if err != nil {
				return nil, err
			}
			d = found[digestKey{row.TraineeID, row.RigID}]
		}
		out[row.TraineeID] = append(out[row.TraineeID], d)
	}
	return out, nil
}

// freshen makes anew what is stale, in a transaction of its own.
func (g *Gym) freshen() error {
	var n int64
	if err := g.rows().Model(&digest{}).Where("stale").Limit(1).Count(&n).Error; err != nil || n == 0 {
		return ownError(err)
	}
	return g.Together(func(*Gym) error { return nil }) // which ends with that
}

// digestStale makes anew, within a transaction, the digests that it left stale.
func (g *Gym) digestStale() error {
	var rows []digest
	err := g.rows().Select("gym_id", "trainee_id", "rig_id").Where("stale").Order("trainee_id, rig_id").
		Clauses(clause.Locking{Strength: "UPDATE"}).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return err
	}
	found, err := g.whole("d.stale")
	for _, row := range rows {
		if err != nil {
			break
		}
		d := found[digestKey{row.TraineeID, row.RigID}]
		err = g.rows().Model(&digest{}).Where("trainee_id = ? AND rig_id = ?", row.TraineeID, row.RigID).
			Updates(map[string]any{"stale": false, "rev": gorm.Expr("nextval('digest_revisions')"),
				"rounds": packedRounds(d.Rounds), "evidence": packedEvidence(d.Evidence)}).Error
	}
	return err
}

// RebuildDigests makes all digests of a gym anew, and tells how many there are.
func (g *Gym) RebuildDigests() (int64, error) {
	var n int64
	return n, g.Together(func(in *Gym) error {
		done := in.rows().Model(&digest{}).Where("true").Update("stale", true)
		n = done.RowsAffected
		return done.Error
	})
}

type digestKey struct{ trainee, rig string }

// whole works out digests from the rounds themselves, for the digests d that a
// condition picks. All are read at once: a table that was just filled has no statistics, and would be read from end to
// end for each.
func (g *Gym) whole(which string, args ...any) (map[digestKey]Digest, error) {
	out := map[digestKey]Digest{}
	of := func() *gorm.DB {
		return g.db.Table("digests d").Where("d.gym_id = ?", g.ID).Where(which, args...).
			Joins("JOIN runs r ON r.gym_id = d.gym_id AND r.trainee_id = d.trainee_id AND r.rig_id = d.rig_id")
	}
	var rounds []Round
	err := of().Joins("JOIN outcomes o ON o.run_id = r.id AND o.planned > 0").
		Where("r.started_at IS NOT NULL AND r.ended_at IS NOT NULL AND r.removed_at IS NULL").
		Select("r.id, r.trainee_id, r.rig_id, coalesce(r.assignment_id::text, '') AS assignment_id, r.rung, r.eased, " +
			"r.created_at, r.predicted, o.planned, o.longest, o.passes, o.share, o.tempo, o.asked, o.counts, o.wild").
		Order("r.trainee_id, r.rig_id, r.created_at, r.id").Find(&rounds).Error
	if err != nil {
		return nil, ownError(err)
	}
	for _, r := range rounds {
		key := digestKey{r.TraineeID, r.RigID}
		d := out[key]
		d.Rounds = append(d.Rounds, r)
		out[key] = d
	}
	for key, d := range out {
		if n := len(d.Rounds); n > MostRounds {
			d.Rounds = d.Rounds[n-MostRounds:]
			out[key] = d
		}
	}
	type found struct {
		Evidence
		RigID string
	}
	var showed, tested []found
	const columns = "e.trainee_id, e.figure, e.bag_kind, e.value, e.spread, e.origin, e.bound, e.found_at, "
	err = of().Joins("JOIN evidence e ON e.run_id = r.id").Select(columns + "r.rig_id").
		Order("r.trainee_id, r.rig_id, e.found_at, e.id").Find(&showed).Error
	if err == nil {
		err = g.db.Table("digests d").Where("d.gym_id = ? AND d.rig_id = ?", g.ID, noRig).Where(which, args...).
			Joins("JOIN evidence e ON e.gym_id = d.gym_id AND e.trainee_id = d.trainee_id AND e.run_id IS NULL").
			Select(columns + "d.rig_id").Order("e.trainee_id, e.found_at, e.id").Find(&tested).Error
	}
	for _, e := range append(showed, tested...) {
		key := digestKey{e.TraineeID, e.RigID}
		d := out[key]
		d.Evidence = append(d.Evidence, e.Evidence)
		out[key] = d
	}
	return out, ownError(err)
}

// Whole works out a trainee's digests from the rounds themselves, in their order, to check those that are kept.
func (g *Gym) Whole(traineeID string) ([]Digest, error) {
	var rigs []string
	err := g.rows().Model(&digest{}).Where("trainee_id = ?", traineeID).Order("rig_id").Pluck("rig_id", &rigs).Error
	if err != nil {
		return nil, ownError(err)
	}
	found, err := g.whole("d.trainee_id = ?", traineeID)
	list := make([]Digest, len(rigs))
	for i, id := range rigs {
		list[i] = found[digestKey{traineeID, id}]
	}
	return list, err
}

// version begins what is packed; another one is unpacked as if it were spoiled.
const version = 1

var errPacked = errors.New("a digest that this release does not read")

// packing writes figures as they are, without loss: whole numbers short, texts once.
type packing struct {
	out   []byte
	texts map[string]uint64
}

func newPacking(n int) *packing {
	p := &packing{out: []byte{version}, texts: map[string]uint64{}}
	p.whole(int64(n))
	return p
}

func (p *packing) whole(v int64) { p.out = binary.AppendVarint(p.out, v) }

func (p *packing) figure(v float64) {
	p.out = binary.LittleEndian.AppendUint64(p.out, math.Float64bits(v))
}

func (p *packing) maybe(v *float64) {
	if v == nil {
		p.figure(math.NaN())
		return
	}
	p.figure(*v)
}

// text writes a text at its first use, and its number from then on.
func (p *packing) text(s string) {
	n, known := p.texts[s]
	if !known {
		n = uint64(len(p.texts))
		p.texts[s] = n
	}
	p.out = binary.AppendUvarint(p.out, n)
	if !known {
		p.out = binary.AppendUvarint(p.out, uint64(len(s)))
		p.out = append(p.out, s...)
	}
}

func packedRounds(list []Round) []byte {
	p := newPacking(len(list))
	for _, r := range list {
		p.text(r.ID)
		p.text(r.AssignmentID)
		p.text(r.Rung)
		p.text(string(r.Eased))
		p.whole(r.CreatedAt.UnixMicro())
		p.maybe(r.Predicted)
		for _, n := range []int{r.Planned, r.Longest, r.Passes, flag(r.Counts), flag(r.Wild)} {
			p.whole(int64(n))
		}
		p.figure(r.Share)
		p.maybe(r.Tempo)
		p.maybe(r.Asked)
	}
	return p.out
}

func packedEvidence(list []Evidence) []byte {
	p := newPacking(len(list))
	for _, e := range list {
		p.text(e.Figure)
		p.text(orZero(e.BagKind))
		p.figure(e.Value)
		p.figure(e.Spread)
		p.text(e.Origin)
		p.whole(int64(flag(e.Bound)))
		p.whole(e.FoundAt.UnixMicro())
	}
	return p.out
}

func flag(on bool) int {
	if on {
		return 1
	}
	return 0
}

// unpacking reads what packing wrote; the first fault ends it.
type unpacking struct {
	in    []byte
	texts []string
	err   error
}

func newUnpacking(in []byte) (*unpacking, int) {
	u := &unpacking{in: in}
	if len(in) == 0 || in[0] != version {
		u.err = errPacked
		return u, 0
	}
	u.in = in[1:]
	n := u.whole()
	if n < 0 || n > int64(len(in)) {
		u.err = errPacked
	}
	return u, int(n)
}

func (u *unpacking) whole() int64 {
	v, n := binary.Varint(u.in)
	return past(u, v, n)
}

func (u *unpacking) count() uint64 {
	v, n := binary.Uvarint(u.in)
	return past(u, v, n)
}

// past goes past n bytes that were read as v.
func past[T any](u *unpacking, v T, n int) (none T) {
	if n <= 0 || u.err != nil {
		u.err = cmp.Or(u.err, errPacked)
		return none
	}
	u.in = u.in[n:]
	return v
}

func (u *unpacking) figure() float64 {
	if len(u.in) < 8 {
		u.err = cmp.Or(u.err, errPacked)
		return 0
	}
	return past(u, math.Float64frombits(binary.LittleEndian.Uint64(u.in)), 8)
}

func (u *unpacking) maybe() *float64 {
	if v := u.figure(); !math.IsNaN(v) {
		return &v
	}
	return nil
}

func (u *unpacking) text() string {
	n := u.count()
	switch {
	case u.err != nil || n > uint64(len(u.texts)):
		u.err = cmp.Or(u.err, errPacked)
		return ""
	case n < uint64(len(u.texts)):
		return u.texts[n]
	}
	size := u.count()
	if u.err != nil || size > uint64(len(u.in)) {
		u.err = cmp.Or(u.err, errPacked)
		return ""
	}
	text := string(u.in[:size])
	u.in, u.texts = u.in[size:], append(u.texts, text)
	return text
}

func (u *unpacking) at() time.Time { return time.UnixMicro(u.whole()).UTC() }

func (row digest) unpacked() (Digest, error) {
	u, n := newUnpacking(row.Rounds)
	d := Digest{Rounds: make([]Round, 0, n), Evidence: []Evidence{}}
	for range n {
		r := Round{TraineeID: row.TraineeID, RigID: row.RigID, ID: u.text(), AssignmentID: u.text(), Rung: u.text(),
			Eased: level.OneThing(u.text()), CreatedAt: u.at(), Predicted: u.maybe()}
		r.Planned, r.Longest, r.Passes = int(u.whole()), int(u.whole()), int(u.whole())
		r.Counts, r.Wild = u.whole() == 1, u.whole() == 1
		r.Share, r.Tempo, r.Asked = u.figure(), u.maybe(), u.maybe()
		d.Rounds = append(d.Rounds, r)
		if u.err != nil {
			return d, u.err
		}
	}
	if u.err != nil {
		return d, u.err
	}
	u, n = newUnpacking(row.Evidence)
	d.Evidence = make([]Evidence, 0, n)
	for range n {
		e := Evidence{TraineeID: row.TraineeID, Figure: u.text()}
		if kind := u.text(); kind != "" {
			e.BagKind = &kind
		}
		e.Value, e.Spread, e.Origin, e.Bound, e.FoundAt = u.figure(), u.figure(), u.text(), u.whole() == 1, u.at()
		d.Evidence = append(d.Evidence, e)
		if u.err != nil {
			return d, u.err
		}
	}
	return d, u.err
}
