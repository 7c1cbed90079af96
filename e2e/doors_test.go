package e2e

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/account"
	"melodromos/demo"
	"melodromos/store"
)

const hallPassword = "a long password"

// hall makes an empty gym with one coach.
func hall(t *testing.T, s *store.Store) store.Coach {
	t.Helper()
	hash, err := account.Hash(context.Background(), hallPassword)
	if err != nil {
		t.Fatal(err)
	}
	gym := store.GymRow{Name: "Hall", Units: "imperial", Zone: "UTC"}
	if err := s.AddGym(context.Background(), &gym); err != nil {
		t.Fatal(err)
	}
	coach := store.Coach{GymID: gym.ID, Email: "new@hall.example", Name: "New", PasswordHash: hash}
	if err := s.AddCoach(context.Background(), &coach); err != nil {
		t.Fatal(err)
	}
	return coach
}

// Hits that a closed page left behind wait for the coach whose round it was, whoever signs in between, and are all sent
// then.
func TestLeftoverHits(t *testing.T) {
	t.Parallel()
	s := demoGym(t)
	other := hall(t, s)
	row, err := s.DemoGym(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	gym := s.Gym(context.Background(), row.ID)
	runs, err := gym.Runs(store.RunFilter{Limit: 2})
	if err != nil {
		t.Fatal(err)
	}
	for i := range runs { // the demo's are played by the stand-in; what is left behind was tapped
		row, err := gym.Run(runs[i].ID)
		if err != nil {
			t.Fatal(err)
		}
		line, err := gym.Timeline(row.ID)
		if err != nil {
			t.Fatal(err)
		}
		row.ID, row.Source, row.IntakeHash, row.Ending, row.StartedAt, row.EndedAt = "", "keys", fmt.Sprint("none ", i),
			"", nil, nil
		if err := gym.AddRun(&row, line); err != nil {
			t.Fatal(err)
		}
		runs[i].Run = row
	}
	url, stop := serve(t, s, "127.0.0.1:0")
	t.Cleanup(stop)
	c := open(t, url, 1280, 800)
	c.ok(c.Go("/"))
	// What pages of this release and of an earlier one, which did not say whose they are, have left.
	const hits = 450
	c.ok(c.Until(fmt.Sprintf(`(() => {
		const hits = Array.from({length: %d}, (_, i) => ({seq: i, at: 1000 * i, hand: 'lead'}))
		localStorage.setItem('outbox:%s', JSON.stringify({device: 'screen a', hits, marks: [], steps: [], coach: %q}))
		localStorage.setItem('outbox:%s', JSON.stringify({device: 'screen b', hits: hits.slice(0, 3), marks: [], steps: []}))
		return true
	})()`, hits, runs[0].ID, *runs[0].CoachID, runs[1].ID)))
	c.ok(c.SignIn(other.Email, hallPassword))
	c.ok(c.See("Nothing is planned yet"))
	time.Sleep(time.Second)
	if left := c.number("Object.keys(localStorage).filter((k) => k.startsWith('outbox:')).length"); left != 2 {
		t.Errorf("%g of 2 rounds' hits are left after another gym's coach", left)
	}
	c.ok(c.Press("Sign out"))
	c.ok(c.See("E-mail"))
	for _, e := range c.Errors() { // what is not this coach's is not found, and the browser says so
		if !strings.Contains(e, "404") {
			t.Errorf("the browser complains: %s", e)
		}
	}
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.Until("Object.keys(localStorage).filter((k) => k.startsWith('outbox:')).length === 0"))
	for i, want := range []int{hits, 3} {
		if kept, err := gym.Hits(runs[i].ID); err != nil || len(kept) != want {
			t.Errorf("%d hits arrived, want %d: %v", len(kept), want, err)
		}
	}
}

// Save, then Undo, is as before, as often as one likes.
func TestUndoAfterSave(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.Go("/drills"))
	c.ok(c.See("First touches, rear hand"))
	id := c.text(
		`[...document.querySelectorAll('li')].find((l) => l.innerText.includes('First touches')).querySelector('a[href*="#/drills/"]').href.split('/').pop()`)
	for _, name := range []string{"Changed by mistake", "Changed again"} {
		c.ok(c.Go("/drills/" + id))
		c.ok(c.See("between strikes"))
		c.ok(c.Set("Name", "Name, if you want one", name))
		c.ok(c.Key("\r"))
		c.ok(c.Press("Save"))
		c.ok(c.See(name + " is saved"))
		c.ok(c.Press("Undo save"))
		c.ok(c.See("First touches, rear hand is as it was"))
		c.ok(c.Until("!document.body.innerText.includes('Changed')")) // nor its notice
	}
}

// Whoever types a thousand repetitions is told how long they would last, and can go on from there.
func TestThousandRepetitions(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("What is thrown"))
	c.ok(c.Fill("What is thrown", "1-2-3-2"))
	c.ok(c.See("2 lead, 2 rear"))
	c.ok(c.Choose("Round length", "Reps"))
	c.ok(c.Set("Wait between reps", "Wait between reps", "6"))
	c.ok(c.Set("Reps", "Reps", "1000"))
	c.ok(c.See("1000 of them would last"))
	said := c.text(
		"[...document.querySelectorAll('p')].map((p) => p.innerText).find((t) => t.includes('1000 of them'))")
	if !regexp.MustCompile(
		`^Repetitions: expected at most \d+ repetitions: 1000 of them would last 1\d\d minutes, and a round lasts 60 at most\.$`).MatchString(said) {
		t.Errorf("%q", said)
	}
	c.ok(c.Until("[...document.querySelectorAll('button')].find((b) => b.innerText === 'Save').disabled"))
	c.ok(c.Fill("Reps", "20"))
	c.ok(
		c.Until(
			"!document.body.innerText.includes('would last') && ![...document.querySelectorAll('button')].find((b) => b.innerText === 'Save').disabled"))
}

// After a knock to the head a round is not started, from whichever page.
func TestHeadCaution(t *testing.T) {
	t.Parallel()
	s := demoGym(t)
	row, err := s.DemoGym(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	gym := s.Gym(context.Background(), row.ID)
	drills, err := gym.Assignments("")
	if err != nil {
		t.Fatal(err)
	}
	url, stop := serve(t, s, "127.0.0.1:0")
	t.Cleanup(stop)
	c := open(t, url, 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	// It happens in a round, and is noted in the pause: the round does not go on, and what was hit is kept.
	other := slices.IndexFunc(drills, func(d store.Assignment) bool { return d.TraineeID != drills[0].TraineeID })
	c.ok(c.Go("/run/" + drills[other].ID))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.into(1))
	c.ok(c.Press("Pause"))
	c.ok(c.See("Paused"))
	if err := gym.AddCaution(&store.Caution{TraineeID: drills[other].TraineeID, Kind: "head",
		SetBy: "Another coach"}); err != nil {
		t.Fatal(err)
	}
	c.ok(c.Press("Go on"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("stopped at"))

	c.ok(c.Go("/run/" + drills[0].ID))
	c.ok(c.See("Ready for the floor"))
	if err := gym.AddCaution(&store.Caution{TraineeID: drills[0].TraineeID, Kind: "head",
		SetBy: "Another coach"}); err != nil {
		t.Fatal(err)
	}
	c.ok(c.Press("Start")) // the page does not know of it yet
	c.ok(c.See("This round does not start. A knock to the head"))
	for _, e := range c.Errors() {
		if !strings.Contains(e, "409") {
			t.Errorf("the browser complains: %s", e)
		}
	}
	c.ok(c.Go("/"))
	c.ok(c.See("Next on the floor"))
	c.ok(c.Go("/run/" + drills[0].ID))
	c.ok(c.See("No round starts. A knock to the head"))
	c.ok(c.Until("[...document.querySelectorAll('button')].find((b) => b.innerText === 'Start').disabled"))
}
