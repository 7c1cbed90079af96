package ledger

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/format/document"
	"melodromos/store"
)

// What somebody has, and when classes are held, come by the thousand in a document: what is there is read once, and
// what is new is stored many at a time.

// fresh are rows that wait to be stored, and the changes in which their ids are told.
type fresh[T any] struct {
	rows []T
	told []int
}

// givenKey tells what is given apart, by whose it is and where.
type givenKey struct {
	drill, person, bag string
}

// open reads what is given here, once.
func (b *bringer) open() error {
	if b.given != nil {
		return nil
	}
	rows, err := b.gym.AllGiven()
	if err != nil {
		return err
	}
	b.given = map[givenKey]store.Assignment{}
	for _, a := range rows {
		key := givenKey{a.DrillID, a.TraineeID, a.RigID}
		if _, there := b.given[key]; !there { // the oldest
			b.given[key] = a
		}
	}
	b.plans = map[string]drill.Plan{}
	return nil
}

// plan is that of a drill as it is here.
func (b *bringer) plan(id string) (drill.Plan, error) {
	if p := b.plans[id]; p != nil {
		return p, nil
	}
	row, err := b.gym.Drill(id)
	if err != nil {
		return nil, err
	}
	p, err := Plan(row)
	b.plans[id] = p
	return p, err
}

// give gives a drill to somebody on a bag, all three as they have become here.
func (b *bringer) give(v document.Given, i int) error {
	if err := b.open(); err != nil {
		return err
	}
	key := givenKey{b.ids[v.Drill], b.ids[v.Person], b.ids[v.Bag]}
	name := b.names[v.Person] + ": " + b.names[v.Drill]
	plan, err := b.plan(key.drill)
	if err == nil {
		_, err = drill.Set(plan, v.Settings)
	}
	if err != nil {
		return input.Under(fmt.Sprintf("gym.given[%d]", i), err)
	}
	a, there := b.given[key]
	if !there {
		a = store.Assignment{DrillID: key.drill, TraineeID: key.person, RigID: key.bag, Eased: v.Eased, Own: v.Own,
			GivenBy: b.by, CreatedAt: v.At}
		SetTo(&a, v.Settings)
		b.given[key] = a
		b.toGive.rows, b.toGive.told = append(b.toGive.rows, a), append(b.toGive.told, len(b.changes))
		b.tell("given", name, Added, "", "")
		return nil
	}
	mine := document.Given{Settings: a.Settings(), Eased: a.Eased, Own: a.Own}
	detail := differingDocs(mine, document.Given{Settings: v.Settings, Eased: v.Eased, Own: v.Own})
	switch {
	case detail == "":
		b.tell("given", name, Same, "", a.ID)
		return nil
	case a.ID == "": // it stands twice in the file
		return input.Refuse(fmt.Sprintf("gym.given[%d]", i), "expected it once: %s stands here twice, and differs", name)
	case !b.how.Over:
		b.tell("given", name, Differs, detail, a.ID)
		return nil
	}
	SetTo(&a, v.Settings)
	a.Eased, a.Own = v.Eased, v.Own
	b.given[key] = a
	b.tell("given", name, Changed, detail, a.ID)
	return b.gym.ChangeAssignment(&a)
}

// dateKey tells dates apart by its name and when it is.
type dateKey struct{ name, day, at string }

func (b *bringer) date(v document.Date) error {
	if b.dates == nil {
		rows, err := b.gym.Dates(store.InUse)
		if err != nil {
			return err
		}
		b.dates = map[dateKey]store.Date{}
		for _, r := range slices.Backward(rows) { // the first of those that are alike stays
			b.dates[dateKey{r.Name, r.Day.Format("2006-01-02"), r.At}] = r
		}
	}
	key := dateKey{v.Name, v.Day, v.At}
	r, there := b.dates[key]
	if !there {
		row, err := DateRow("", 0, v.Date, b.ids[v.Session])
		if err != nil {
			return err
		}
		b.dates[key] = row
		b.toHold.rows, b.toHold.told = append(b.toHold.rows, row), append(b.toHold.told, len(b.changes))
		b.tell("date", v.Name, Added, v.Sentence(), "")
		return nil
	}
	mine, err := DateDocument(r)
	if err != nil {
		return err
	}
	detail := differingDocs(mine, v.Date)
	if v.Session != "" && b.ids[v.Session] != orZero(r.SessionPlanID) {
		detail = cmp.Or(detail, "session")
	}
	switch {
	case detail == "":
		b.tell("date", v.Name, Same, "", r.ID)
		return nil
	case r.ID == "":
		return input.Refuse("gym.dates", "expected %s of %s at %s once: it stands there twice, and differs", v.Name,
			v.Day, v.At)
	case !b.how.Over:
		b.tell("date", v.Name, Differs, detail, r.ID)
		return nil
	}
	row, err := DateRow(r.ID, r.Version, v.Date, b.ids[v.Session])
	if err == nil {
		err = b.gym.ChangeDate(&row)
	}
	b.dates[key] = row
	b.tell("date", v.Name, Changed, detail, r.ID)
	return err
}

// flush stores what waits, and tells its ids.
func (b *bringer) flush() error {
	err := errors.Join(b.gym.AddAssignments(b.toGive.rows), b.gym.AddDates(b.toHold.rows))
	for k, i := range b.toGive.told {
		b.changes[i].ID = b.toGive.rows[k].ID
	}
	for k, i := range b.toHold.told {
		b.changes[i].ID = b.toHold.rows[k].ID
	}
	return err
}
