package ledger

import (
	"slices"

	"melodromos/core/erasing"
	"melodromos/store"
)

// Mention is a text of a gym in which somebody's name stands, or may stand.
type Mention struct {
	Key     string // names it
	Where   string // what it is, in words
	Text    string
	Becomes string
	Sure    bool // the whole name stands there: it goes with the person
	Alike   bool // a part of it does, in its capitals
	Unread  bool // what is called Text cannot be read, and may say the name: nothing in it is changed
}

// places names the columns of texts in words.
var places = map[string]string{"drills.name": "a drill", "runs.drill_name": "rounds in the log",
	"turns.title": "what was done in classes", "rigs.name": "a bag", "session_plans.name": "a session",
	"session_plans.doc": "a session", "hours.name": "a class", "hours.plan": "a class", "dates.name": "the calendar",
	"dates.note": "a note in the calendar", "calendar_links.name": "an address of the calendar",
	"invitations.for_whom": "an invitation", "ratings.note": "a note on a round",
	"corrections.reason": "a correction", "trainees.notes": "notes on somebody else",
	"trainees.goals": "goals of somebody else", "cautions.note": "a caution of somebody else",
	"decisions.reason": "a decision for somebody else", "evidence.note": "what somebody else was measured by"}

// Mentions lists where somebody's name stands, or may stand, beside what goes with them.
func Mentions(gym *store.Gym, t store.Trainee) ([]Mention, error) {
	name := erasing.Of(t.Name)
	list := []Mention{}
	if name.Pattern() == "" {
		return list, nil
	}
	texts, err := gym.Texts(name.Pattern(), t.ID)
	for _, x := range texts {
		if x.Unread {
			list = append(list, Mention{Key: x.Where + ":" + x.Key, Where: places[x.Where], Text: x.Text,
				Becomes: x.Text, Unread: true})
			continue
		}
		if !name.Mentions(x.Text) {
			continue
		}
		whole := name.Whole(x.Text)
		list = append(list, Mention{Key: x.Where + ":" + x.Key, Where: places[x.Where], Text: x.Text,
			Becomes: name.Parts(x.Text), Sure: whole != x.Text && !name.Mentions(whole), Alike: name.Alike(x.Text)})
	}
	return list, err
}

// Erase erases somebody for good. Their whole name goes wherever it stands; of the texts in which a part of it stands,
// those whose keys are named are changed, and the others, with whatever else was left, are told.
func Erase(gym *store.Gym, t store.Trainee, keys []string) (store.Erased, []Mention, error) {
	name := erasing.Of(t.Name)
	gone, err := gym.Erase(t.ID, name.Pattern(), func(where, key, text string) string {
		if slices.Contains(keys, where+":"+key) {
			return name.Parts(text)
		}
		return name.Whole(text)
	})
	if err != nil {
		return gone, nil, err
	}
	left, err := Mentions(gym, t)
	return gone, left, err
}
