package server

import (
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/session"
	"melodromos/ledger"
	"melodromos/store"
)

// SessionPlan is a session that the gym has laid out.
type SessionPlan struct {
	ID       string          `json:"id" readOnly:"true"`
	Version  int             `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Session  session.Session `json:"session"`
	Sentence string          `json:"sentence" readOnly:"true" required:"false"`
	Archived bool            `json:"archived,omitempty" readOnly:"true"`
}

// Sessions are those of the gym, and those that come with the product.
type Sessions struct {
	Own       []SessionPlan     `json:"own"`
	Templates []SessionTemplate `json:"templates"`
	Doings    []session.Doing   `json:"doings" doc:"what is done off the bag"`
}

// SessionTemplate is a session that comes with the product.
type SessionTemplate struct {
	session.Template
	Sentence string `json:"sentence"`
}

// SessionQuestion asks what a session comes to, for somebody on a bag where they are named.
type SessionQuestion struct {
	Session   session.Session `json:"session"`
	Changed   *BlockAt        `json:"changed,omitempty" doc:"what was changed: the other blocks of its round give way"`
	TraineeID string          `json:"traineeId,omitempty" format:"uuid"`
	RigID     string          `json:"rigId,omitempty" format:"uuid"`
}

// BlockAt is a place in a session.
type BlockAt struct {
	Round int `json:"round" minimum:"0" maximum:"100"`
	Block int `json:"block" minimum:"-1" maximum:"100" doc:"-1 for none in particular: the round's length was changed"`
}

// SessionLook holds a session's totals and its course.
type SessionLook struct {
	Session  session.Session   `json:"session" doc:"with its rounds filled to the second, as far as that can be"`
	Sentence string            `json:"sentence"`
	Totals   session.Totals    `json:"totals"`
	Remarks  []session.Remark  `json:"remarks"`
	Titles   [][]string        `json:"titles" doc:"of each round's blocks"`
	Faces    []session.Display `json:"faces" doc:"its blocks and rests in order"`
	Caution  string            `json:"caution" doc:"for everybody who trains"`
	Barred   bool              `json:"barred" doc:"it cannot be kept or run as it is"`
}

// BuildUpQuestion asks for a combination to be taken apart and put together.
type BuildUpQuestion struct {
	Text    string   `json:"text" maxLength:"2000"`
	Bag     rig.Kind `json:"bag" doc:"the kind of bag"`
	Seconds int      `json:"seconds" minimum:"60" maximum:"900" default:"180" doc:"of a round"`
}

func sessionOut(row store.SessionPlan) (SessionPlan, error) {
	out := SessionPlan{ID: row.ID, Version: row.Version, Archived: row.ArchivedAt != nil}
	var err error
	if out.Session, err = ledger.SessionDocument(row); err != nil {
		return out, err
	}
	out.Sentence = inShort(out.Session)
	return out, nil
}

// inShort says how long a session is, and of how many rounds.
func inShort(s session.Session) string { return s.Sentence(session.Totals{Seconds: s.Seconds()}) }

// row checks a session.
func (p SessionPlan) row(id string) (store.SessionPlan, error) {
	name, err := input.Name("session.name", p.Session.Name)
	if err == nil {
		err = input.Under("session", p.Session.Check())
	}
	if err != nil {
		return store.SessionPlan{}, err
	}
	p.Session.Name = name
	doc, err := json.Marshal(p.Session)
	return store.SessionPlan{ID: id, Name: name, Doc: doc, Version: p.Version}, err
}

func (c caller) changeSession(id string, in SessionPlan) (SessionPlan, error) {
	row, err := in.row(id)
	if err == nil {
		err = ledger.WasRead(in.Version)
	}
	if err == nil {
		err = c.Gym.ChangeSessionPlan(&row)
	}
	if err != nil {
		return SessionPlan{}, err
	}
	return sessionOut(row)
}

func (c caller) makeSession(key string, in SessionPlan) (SessionPlan, error) {
	return made(key, func() (SessionPlan, error) {
		row, err := in.row(key)
		if err != nil {
			return SessionPlan{}, err
		}
		row.MadeBy = &c.Coach.ID
		if err := c.Gym.AddSessionPlan(&row); err != nil {
			return SessionPlan{}, err
		}
		return sessionOut(row)
	}, func() (SessionPlan, error) {
		in.Version = asMade
		return c.changeSession(key, in)
	})
}

// trainer is whoever a session is looked at for: the person and the bag that are named, and where they are not anybody,
// and the first bag of each kind that hangs.
func (c caller) trainer(in SessionQuestion) (session.Trainer, error) {
	who := session.Anybody()
	everyday := who.Bag
	var cl roster.Roster
	var m *roster.Member
	var err error
	if in.TraineeID != "" {
		cl, m, err = c.Member(in.TraineeID)
	} else {
		cl, err = ledger.Bags(c.Gym, c.Row, c.Stop)
	}
	if err != nil {
		return who, err
	}
	if m != nil {
		who.Age, who.Cautions = m.Age, m.Cautions
	}
	if in.RigID != "" && cl.Bag(in.RigID) == nil {
		return who, input.Refuse("rigId", "expected a bag that hangs in this gym")
	}
	floors := map[rig.Kind]drill.Floor{}
	who.Bag = func(kind rig.Kind) drill.Floor {
		if on, known := floors[kind]; known {
			return on
		}
		on := everyday(kind)
		for i := range cl.Bags {
			b := &cl.Bags[i]
			if b.Kind() != kind || in.RigID != "" && b.ID != in.RigID && cl.Bag(in.RigID).Kind() == kind {
				continue
			}
			if m != nil {
				on = cl.Floor(m, b)
			} else {
				on.Bag, on.Place = b.Rig, b.Place
			}
			break
		}
		on.NoKicks, on.Undrawn, on.Stop = !c.Row.Kicks, true, c.Stop
		floors[kind] = on
		return on
	}
	return who, nil
}

func (c caller) look(in SessionQuestion) (SessionLook, error) {
	changed := BlockAt{-1, -1}
	if in.Changed != nil {
		changed = *in.Changed
	}
	out := SessionLook{Session: in.Session.Settled(changed.Round, changed.Block),
		Titles: [][]string{}, Caution: caution.General}
	who, err := c.trainer(in)
	if err != nil {
		return out, err
	}
	out.Totals, out.Remarks = out.Session.Totals(who), out.Session.Remarks(who)
	out.Sentence = out.Session.Sentence(out.Totals)
	out.Faces = session.Begin(out.Session, 0).Faces()
	for _, r := range out.Remarks {
		out.Barred = out.Barred || r.Bars
	}
	for _, r := range out.Session.Rounds {
		titles := []string{}
		for _, b := range r.Blocks {
			titles = append(titles, b.Title())
		}
		out.Titles = append(out.Titles, titles)
	}
	return out, c.Stop()
}

func (s *Server) registerSessions(api huma.API) {
	get(api, "/api/sessions", func(c caller, in *Shelf) (Sessions, error) {
		out := Sessions{Doings: session.Doings()}
		for _, t := range session.Templates() {
			out.Templates = append(out.Templates, SessionTemplate{t, inShort(t.Session)})
		}
		rows, err := c.Gym.SessionPlans(in.stored())
		out.Own, err = readable(c, rows, err, sessionOut)
		return out, err
	})
	get(api, "/api/sessions/{id}", func(c caller, in *ByID) (SessionPlan, error) {
		row, err := c.Gym.SessionPlan(in.ID)
		if err != nil {
			return SessionPlan{}, err
		}
		return sessionOut(row)
	})
	post(api, "/api/sessions", func(c caller, in *Making[SessionPlan]) (SessionPlan, error) {
		return c.makeSession(in.Key, in.Body)
	})
	put(api, "/api/sessions/{id}", func(c caller, in *Addressed[SessionPlan]) (SessionPlan, error) {
		return c.changeSession(in.ID, in.Body)
	})
	command(api, http.MethodDelete, "/api/sessions/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.SessionPlan{}, in.ID) })
	command(api, http.MethodPost, "/api/sessions/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.SessionPlan{}, in.ID) })
	post(api, "/api/session-look", func(c caller, in *body[SessionQuestion]) (SessionLook, error) {
		return c.look(in.Body)
	})
	post(api, "/api/build-up", func(_ caller, in *body[BuildUpQuestion]) (session.Session, error) {
		return session.BuildUp(in.Body.Text, in.Body.Bag, in.Body.Seconds)
	})
}
