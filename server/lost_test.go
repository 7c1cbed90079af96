package server

import (
	"fmt"
	"strings"
	"testing"
)

const firstKey = "0c0ffee0-0000-4000-8000-000000000001"

// keyed sends something to be made under a key, and gives the id of what it became.
func (u user) keyed(key, path string, body any) (id string, status int) {
	u.t.Helper()
	status, _, out := u.do("POST", path, body, "Idempotency-Key", key)
	if _, after, found := strings.Cut(string(out), `"id":"`); found && status == 200 {
		id, _, _ = strings.Cut(after, `"`)
	}
	return id, status
}

// What is sent twice to be made, because Save was pressed twice or the first answer was lost, is made once, and is as
// it was sent last; once somebody else has changed it, it is theirs to keep as well.
func TestMadeOnce(t *testing.T) {
	s := newSite(t)
	u, other := s.coach(t, "Larch"), s.coach(t, "Maple")
	person, bag, d := u.furnished(10)
	things := []struct {
		path string
		make func(name string) any
	}{
		{"/api/trainees", func(name string) any { p := person; p.Name = name; return p }},
		{"/api/rigs", func(name string) any { r := bag; r.Name = name; return r }},
		{"/api/drills", func(name string) any { return Drill{Name: name, Kind: "speed", Doc: d.Doc} }},
		{"/api/assignments", func(name string) any { a := d; a.Name = name; return a }},
	}
	for i, thing := range things {
		key := strings.TrimSuffix(firstKey, "1") + fmt.Sprint(i)
		count := func() int {
			list := map[string]string{"/api/assignments": "/api/drills"}[thing.path]
			if list == "" {
				list = thing.path
			}
			return strings.Count(u.want(200, "GET", list, nil, nil), `{"id":"`)
		}
		before := count()
		for _, name := range []string{"Once", "Twice"} {
			if id, status := u.keyed(key, thing.path, thing.make(name)); status != 200 || id != key {
				t.Errorf("%s %s: %d, id %q", thing.path, name, status, id)
			}
		}
		if made := count() - before; made != 1 {
			t.Errorf("%s: %d were made", thing.path, made)
		}
		if is := u.want(200, "GET", thing.path+"/"+key, nil, nil); !strings.Contains(is, `"name":"Twice"`) {
			t.Errorf("%s: %s", thing.path, is)
		}
		if _, status := u.keyed(key, thing.path, thing.make("Thrice")); status != 409 {
			t.Errorf("%s, changed since: %d", thing.path, status)
		}
		if _, status := other.keyed(key, thing.path, thing.make("Theirs")); status != 404 {
			t.Errorf("%s by another gym's key: %d", thing.path, status)
		}
	}
}

// Of two who change the same person, or the gym, the second is told, and nothing of the first is lost.
func TestChangedMeanwhile(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	person, _ := u.hung()
	var gym GymSettings
	u.want(200, "GET", "/api/gym", nil, &gym)
	first, second := person, person
	first.Notes, second.Notes = "left shoulder", "right shoulder"
	u.want(200, "PUT", "/api/trainees/"+person.ID, first, &first)
	u.want(409, "PUT", "/api/trainees/"+person.ID, second, nil)
	second.Version = first.Version // mine is kept after all
	u.want(200, "PUT", "/api/trainees/"+person.ID, second, &second)
	if second.Version != 3 || second.Notes != "right shoulder" {
		t.Errorf("%+v", second)
	}
	one, two := gym, gym
	one.GetReady, two.GetReady = 5, 25
	u.want(200, "PUT", "/api/gym", one, nil)
	u.want(409, "PUT", "/api/gym", two, nil)
	if u.want(200, "GET", "/api/gym", nil, &gym); gym.GetReady != 5 {
		t.Errorf("%+v", gym)
	}
}
