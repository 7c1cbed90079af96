package store

import (
	"encoding/json"
	"fmt"
	"strings"

	"gorm.io/gorm"

	"melodromos/core/class"
	"melodromos/core/session"
)

// Erased tells what went with somebody for good, and what stays as counts without a name.
type Erased struct {
	Rounds      int64 // stay as counts: when, on which bag, how many
	Hits        int64
	Evidence    int64
	Cautions    int64
	Decisions   int64
	Assignments int64
}

// nobody stands in plans where the id of somebody stood who was erased.
const nobody = "00000000-0000-0000-0000-000000000000"

// Text is something that people have written or called something, wherever in a gym it stands.
type Text struct {
	Where string // table and column
	Key   string // of the row; of what many rows say alike, the text itself
	Text  string // of a document, what of it is meant, in one
	// Unread says of a document that it matches and cannot be read, so that Text tells nothing of it.
	Unread bool
}

// A column holds texts.
type column struct {
	model any
	name  string
	alike bool   // many rows say the same, and are told and changed as one
	own   string // the column that names whose a row is: those of somebody who is erased go with them
}

// columns hold all texts in which somebody's name may stand, beside the documents of sessions and classes.
var textColumns = []column{
	{&Drill{}, "name", false, ""}, {&Run{}, "drill_name", true, ""}, {&Turn{}, "title", true, "trainee_id"},
	{&Rig{}, "name", false, ""}, {&SessionPlan{}, "name", false, ""}, {&Class{}, "name", false, ""},
	{&Date{}, "name", false, ""}, {&Date{}, "note", false, ""}, {&CalendarLink{}, "name", false, ""},
	{&Invitation{}, "for_whom", false, ""}, {&Rating{}, "note", false, ""}, {&Correction{}, "reason", false, ""},
	{&Trainee{}, "notes", false, "id"}, {&Trainee{}, "goals", false, "id"}, {&Caution{}, "note", false, "trainee_id"},
	{&Decision{}, "reason", false, "trainee_id"}, {&Evidence{}, "note", true, "trainee_id"},
}

func (g *Gym) where(c column) string {
	st := &gorm.Statement{DB: g.db}
	_ = st.Parse(c.model)
	return st.Schema.Table + "." + c.name
}

// Texts lists the texts of a gym that match an expression of PostgreSQL, in any case of letters, but for those that go
// with a person.
func (g *Gym) Texts(pattern, personID string) ([]Text, error) {
	var list []Text
	for _, c := range textColumns {
		var rows []struct{ ID, Text string }
		pick := "id::text AS id, " + c.name + " AS text"
		if c.alike {
			pick = "DISTINCT " + c.name + " AS id, " + c.name + " AS text"
		}
		q := g.rows().Model(c.model).Select(pick).Where(c.name+" ~* ?", pattern)
		if c.own != "" {
			q = q.Where(c.own+" <> ?", personID)
		}
		if runs := g.runsOf(personID); strings.HasPrefix(g.where(c), "ratings.") {
			q = q.Where("run_id IS NULL OR run_id NOT IN (?)", runs)
		} else if strings.HasPrefix(g.where(c), "corrections.") {
			q = q.Where("run_id NOT IN (?)", runs)
		}
		if err := q.Find(&rows).Error; err != nil {
			return nil, ownError(err)
		}
		for _, r := range rows {
			list = append(list, Text{Where: g.where(c), Key: r.ID, Text: r.Text})
		}
	}
	var plans []SessionPlan
	if err := g.rows().Where("doc::text ~* ?", pattern).Find(&plans).Error; err != nil {
		return nil, ownError(err)
	}
	for _, p := range plans {
		s, err := session.Read(p.Doc)
		if err != nil {
			list = append(list, Text{Where: "session_plans.doc", Key: p.ID, Text: p.Name, Unread: true})
			continue
		}
		var said []string
		_ = s.Renamed(func(text string) string { said = append(said, text); return text })
		list = append(list, Text{Where: "session_plans.doc", Key: p.ID, Text: strings.Join(said, " · ")})
	}
	var classes []Class
	if err := g.rows().Select("id, name, plan").Where("plan::text ~* ?", pattern).Find(&classes).Error; err != nil {
		return nil, ownError(err)
	}
	for _, h := range classes {
		p, err := class.Read(h.Plan)
		if err != nil {
			list = append(list, Text{Where: "hours.plan", Key: h.ID, Text: h.Name, Unread: true})
			continue
		}
		var said []string
		_ = p.Without(personID, nobody, func(text string) string { said = append(said, text); return text })
		list = append(list, Text{Where: "hours.plan", Key: h.ID, Text: strings.Join(said, " · ")})
	}
	return list, nil
}

func (g *Gym) runsOf(personID string) *gorm.DB {
	return g.rows().Model(&Run{}).Select("id").Where("trainee_id = ?", personID)
}

// Renaming gives what a text is called from now on.
type Renaming func(where, key, text string) string

// Erase deletes a person for good, with what was measured, cautioned and decided of them and what was captured in their
// rounds. Of the rounds the log keeps the counts, without a name. Of what is kept, the texts that match an expression
// go through renamed; nothing else of it is touched.
func (g *Gym) Erase(id, pattern string, renamed Renaming) (Erased, error) {
	var gone Erased
	err := g.Together(func(in *Gym) error {
		if err := in.exists(&Trainee{}, id); err != nil {
			return err
		}
		runs := in.runsOf(id)
		for table, n := range map[string]*int64{"hits": &gone.Hits, "marks": nil, "timelines": nil,
			"faults": nil, "ratings": nil, "corrections": nil} {
			done := in.db.Exec("DELETE FROM "+table+" WHERE gym_id = ? AND run_id IN (?)", g.ID, runs)
			if done.Error != nil {
				return done.Error
			}
			if n != nil {
				*n = done.RowsAffected
			}
		}
		for model, n := range map[any]*int64{&Evidence{}: &gone.Evidence, &Caution{}: &gone.Cautions,
			&Decision{}: &gone.Decisions, &Assignment{}: &gone.Assignments, &Run{}: &gone.Rounds} {
			if err := in.rows().Model(model).Where("trainee_id = ?", id).Count(n).Error; err != nil {
				return err
			}
		}
		if err := in.outOfPlans(id, pattern, renamed); err != nil {
			return err
		}
		// the rest goes with the row, or forgets it
		if err := in.rows().Where("id = ?", id).Delete(&Trainee{}).Error; err != nil {
			return err
		}
		if pattern == "" {
			return nil
		}
		return in.rename(id, pattern, renamed)
	})
	return gone, ownError(err)
}

// rename gives texts their new names, columns first, then what sessions say in their documents.
func (g *Gym) rename(id, pattern string, renamed Renaming) error {
	list, err := g.Texts(pattern, id)
	if err != nil {
		return err
	}
	columns := map[string]column{}
	for _, c := range textColumns {
		columns[g.where(c)] = c
	}
	for _, t := range list {
		to := renamed(t.Where, t.Key, t.Text)
		c, isColumn := columns[t.Where]
		if to == t.Text || !isColumn {
			continue
		}
		q := g.rows().Model(c.model)
		if c.alike {
			q = q.Where(c.name+" = ?", t.Key)
		} else {
			q = q.Where("id = ?", t.Key)
		}
		if err := q.Update(c.name, to).Error; err != nil {
			return fmt.Errorf("rename %s: %w", t.Where, err)
		}
	}
	var plans []SessionPlan
	if err := g.rows().Where("doc::text ~* ?", pattern).Find(&plans).Error; err != nil {
		return err
	}
	for _, p := range plans {
		s, err := session.Read(p.Doc)
		if err != nil {
			continue // it is told as what is left
		}
		doc, err := json.Marshal(s.Renamed(
			func(text string) string { return renamed("session_plans.doc", p.ID, text) }))
		if err != nil {
			return err
		}
		if err := g.rows().Model(&SessionPlan{}).Where("id = ?", p.ID).Update("doc", string(doc)).Error; err != nil {
			return err
		}
	}
	return nil
}

// outOfPlans takes a person out of the plans of the gym's classes.
func (g *Gym) outOfPlans(id, pattern string, renamed Renaming) error {
	q := g.rows().Select("id, plan")
	if pattern == "" {
		q = q.Where("plan::text LIKE ?", "%"+id+"%")
	} else {
		q = q.Where("plan::text LIKE ? OR plan::text ~* ?", "%"+id+"%", pattern)
	}
	var rows []Class
	if err := q.Find(&rows).Error; err != nil {
		return err
	}
	for _, h := range rows {
		p, err := class.Read(h.Plan)
		if err != nil { // nothing in it is known by its meaning but the id
			err = g.db.Exec("UPDATE hours SET plan = replace(plan::text, ?, ?)::jsonb WHERE gym_id = ? AND id = ?", id, nobody,
				g.ID, h.ID).Error
			if err != nil {
				return err
			}
			continue
		}
		doc, err := json.Marshal(p.Without(id, nobody,
			func(text string) string { return renamed("hours.plan", h.ID, text) }))
		if err != nil {
			return err
		}
		if err := g.rows().Model(&Class{}).Where("id = ?", h.ID).Update("plan", string(doc)).Error; err != nil {
			return err
		}
	}
	return nil
}
