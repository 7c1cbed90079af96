package calc

import (
	"context"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/level"
	"melodromos/core/trainee"
)

type gradeOut struct {
	Level   float64 `json:"level"`
	Timing  float64 `json:"timing"`
	Hands   float64 `json:"hands"`
	Pattern float64 `json:"pattern"`
	Reading float64 `json:"reading"`
}

type fitOut struct {
	gradeOut
	Clean   float64 `json:"clean"`
	Counted float64 `json:"counted"`
	Run     float64 `json:"run"`
	Longest float64 `json:"longest"`
}

// grade tells how hard a drill is, and, with an ability, how it fits. An ability names a skill band and whatever of its
// figures is known better: {"band":"beginner","timing":0.07,"alternate":0.24,…}.
func grade(ctx context.Context, o *input.Object) (any, error) {
	d := o.Object("drill")
	plan, floor, err := readDrill(ctx, d)
	if err != nil {
		return nil, err
	}
	var ability *trainee.Ability
	if o.Has("ability") {
		a, err := readAbility(o.Object("ability"))
		if err != nil {
			return nil, err
		}
		ability = &a
	}
	if err := o.Done(); err != nil {
		return nil, err
	}
	t, err := plan.Lay(floor)
	if err != nil {
		return nil, d.Under(err)
	}
	g, err := level.Graded(plan, t, floor)
	if err != nil {
		return nil, d.Under(err)
	}
	out := gradeOut{g.Level, g.Timing.Value, g.Hands.Value, g.Pattern.Value, g.Reading.Value}
	if ability == nil {
		return out, nil
	}
	floor.Ability = *ability
	f := level.For(plan, t, floor, level.Told{Latency: true})
	return fitOut{out, f.Clean, f.Counted, level.Streak(f.Clean, f.Strikes),
		level.LongestStreak(f.Clean, f.Strikes)}, nil
}

func readAbility(o *input.Object) (trainee.Ability, error) {
	a := trainee.Start(readBand(o))
	for _, f := range trainee.Figures {
		a.Set(f, o.NumberOr(string(f), f.Limits(), a.Get(f)))
	}
	a.Fade = o.NumberOr("fade", input.Limits{Max: 5}, a.Fade)
	a.Weak = combo.Hand(o.ChoiceOr("weak", "", string(combo.Lead), string(combo.Rear)))
	return a, o.Done()
}
