package bench

import (
	"melodromos/core/answer"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// Glance is a bag in a list: its everyday tempo, and what is wrong with it whoever uses it.
type Glance struct {
	Sentence string   `json:"sentence" doc:"the everyday tempo at half the power of somebody in the middle"`
	Wrong    []string `json:"wrong" doc:"what is wrong with it, whoever uses it"`
}

// Look gives a glance at a bag as it hangs.
func Look(bag rig.Rig, place rig.Place, units words.Units) (Glance, error) {
	somebody := trainee.Start(trainee.Intermediate)
	a, err := bag.AtFist(somebody.FistSpeed/2, rig.Everyday(bag.Kind()))
	if err != nil {
		return Glance{}, err
	}
	said := strikeSaid(Question{Rig: bag, Meeting: rig.Everyday(bag.Kind()), Ability: somebody, Units: units},
		Answer{Strike: a, Launch: a.Launch})
	g := Glance{Sentence: said, Wrong: []string{}}
	wrong, _ := rig.Worst(bag.Inspect(rig.Use{Place: place, Launch: a.Launch, Fist: a.FistSpeed,
		Hardest: somebody.FistSpeed}))
	for _, f := range wrong {
		g.Wrong = append(g.Wrong, f.Title)
	}
	return g, nil
}

// Card is a setting card: how to set a bag for one person, and how it then behaves.
type Card struct {
	Set    []rig.Setting `json:"set" doc:"every measure that belongs to this person, whether it is so today or not"`
	Hung   Sheet         `json:"hung" doc:"the bag once it hangs so"`
	Strike string        `json:"strike" doc:"the tempo in words"`
}

// SettingCard answers a question once the bag hangs as it is set up for whoever is asked about.
func SettingCard(q Question) (Card, error) {
	now, err := Ask(q)
	if err != nil {
		return Card{}, err
	}
	out := Card{Set: answer.List(now.SetUp.Settings)}
	if now.SetUp.Move != 0 {
		if q.Rig, q.Place, err = rig.Apply(q.Rig, q.Place, now.SetUp.Settings); err != nil {
			return Card{}, err
		}
		if now, err = Ask(q); err != nil {
			return Card{}, err
		}
	}
	out.Hung = now.Sheet(q)
	out.Strike = strikeSaid(q, now)
	return out, nil
}
