package main

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"time"
)

// request is one that is sent.
type request struct {
	name string
	sent int
	send func() (status, length int, err error)
}

func by(c client, name, method, path, body string) request {
	return request{name, len(body), func() (int, int, error) { return c.send(method, path, []byte(body)) }}
}

// repeated is a text n times, parted by commas.
func repeated(n int, text func(i int) string) string {
	list := make([]string, n)
	for i := range list {
		list[i] = text(i)
	}
	return strings.Join(list, ",")
}

func same(text string) func(int) string { return func(int) string { return text } }

// bench is the question of a coach before a speed bag.
func bench(c client) (string, error) {
	var people []struct{ ID string }
	var bags []struct{ Doc json.RawMessage }
	if err := c.ask(http.MethodGet, "/api/trainees", nil, &people); err != nil {
		return "", err
	}
	if err := c.ask(http.MethodGet, "/api/rigs", nil, &bags); err != nil {
		return "", err
	}
	for _, b := range bags {
		if bytes.Contains(b.Doc, []byte(`"speed"`)) {
			return fmt.Sprintf(`{"rig":%s,"traineeId":%q,"rebounds":3,"strikeAngle":25}`, b.Doc, people[0].ID), nil
		}
	}
	return "", fmt.Errorf("no speed bag hangs in this gym")
}

// requests are all that is sent: by nobody in particular, then by a coach.
func requests(s server, coach client) ([]request, error) {
	stranger := s.stranger()
	unknown := func(n int) string { return repeated(n, func(i int) string { return fmt.Sprintf(`"k%d":0`, i) }) }
	key := strings.Repeat("k", 500_000)
	const cords = `{"rig":{"kind":"doubleEnd","ballDiameter":0.8,"ballMass":1,"upper":{"span":4,"relaxed":3,"stiffness":%g},` +
		`"lower":{"span":4,"relaxed":3,"stiffness":%g},"damping":0.9},"measured":{"method":"count","count":60,"seconds":1}}`
	strikes := repeated(20_000, func(i int) string { return fmt.Sprintf(`{"at":%g,"window":0.1}`, float64(i)/2) })
	hits := repeated(20_000, func(i int) string { return fmt.Sprintf(`{"at":%g}`, float64(i)/2+0.25) })
	list := []request{
		by(stranger, "sign-in: a long text, 1000 unknown fields", "POST", "/api/sign-in",
			`{"email":"`+strings.Repeat("x", 900_000)+`",`+unknown(1000)+"}"),
		by(stranger, "sign-in: 1000 unknown fields", "POST", "/api/sign-in", "{"+unknown(1000)+"}"),
		by(stranger, "sign-in: unknown fields alone", "POST", "/api/sign-in", "{"+unknown(10_000)+"}"),
		by(stranger, "join: a name of 500 kB over a list", "POST", "/api/join",
			`{"`+key+`":[`+repeated(200_000, same("0"))+"]}"),
		by(stranger, "judge: 20000 strikes, nothing met", "POST", "/api/calc/judge",
			`{"strikes":[`+strikes+`],"hits":[`+hits+"]}"),
		by(coach, "a person: a name of 500 kB over a list", "POST", "/api/trainees",
			`{"`+key+`":[`+repeated(200_000, same("0"))+"]}"),
		by(coach, "calibrate: cords that no gym has", "POST", "/api/calibrate", fmt.Sprintf(cords, 1e5, 1e-6)),
		by(coach, "calibrate: cords at their ends", "POST", "/api/calibrate", fmt.Sprintf(cords, 2e4, 1.0)),
		by(coach, "import: 120 MB of commas", "POST", "/api/import", "started"+strings.Repeat(",", 120<<20)),
		by(coach, "import: 31 MB of {}", "POST", "/api/import",
			`{"melodromos":"gym","version":2,"gym":{"bags":[`+repeated(11_000_000, same("{}"))+"]}}"),
		by(coach, "import: 31 MB of {} alone", "POST", "/api/import", strings.Repeat("{}", 15_500_000)),
		by(coach, "import: MIDI with 60000 lyrics", "POST", "/api/import?dry=true", lyrics(60_000)),
	}
	for _, more := range []func(client) ([]request, error){documents, rounds, floor, sound} {
		found, err := more(coach)
		if err != nil {
			return nil, err
		}
		list = append(list, found...)
	}
	return list, nil
}

// documents are the gym's own with a list of it made long.
func documents(c client) ([]request, error) {
	var doc map[string]any
	if err := c.ask(http.MethodGet, "/api/export/gym", nil, &doc); err != nil {
		return nil, err
	}
	gym := doc["gym"].(map[string]any)
	with := func(list string, entries []any) (string, error) {
		was := gym[list]
		gym[list] = entries
		text, err := json.Marshal(doc)
		gym[list] = was
		return string(text), err
	}
	dates := make([]any, 5000)
	for i := range dates {
		dates[i] = map[string]any{"name": fmt.Sprint("Class ", i), "day": "2027-03-02", "at": "18:30", "minutes": 60}
	}
	given := gym["given"].([]any)
	many := make([]any, 0, 100_000)
	for len(many) < 100_000 {
		many = append(many, given[0])
	}
	a, err := with("dates", dates)
	if err != nil {
		return nil, err
	}
	b, err := with("given", many)
	return []request{by(c, "import: 5000 dates", "POST", "/api/import?dry=true", a),
		by(c, "import: one gift 100000 times", "POST", "/api/import?dry=true", b)}, err
}

// rounds are two of as many hits as a round may hold: one is corrected and marked late, and a table goes to and fro
// between both.
func rounds(c client) ([]request, error) {
	var drills []struct {
		Kind    string
		Holders []struct{ AssignmentID, TraineeID, Trainee, Rig string }
	}
	if err := c.ask(http.MethodGet, "/api/drills", nil, &drills); err != nil {
		return nil, err
	}
	for _, d := range drills {
		if d.Kind == "speed" || d.Kind == "slip" || len(d.Holders) == 0 {
			continue
		}
		h := d.Holders[0]
		var ids, started []string
		for range 2 {
			id, at, err := fullRound(c, h.AssignmentID)
			if err != nil {
				return nil, err
			}
			ids, started = append(ids, id), append(started, at)
		}
		path := "/api/runs/" + ids[0]
		var table strings.Builder
		table.WriteString("started,person,bag,at,device,n\r\n")
		for i := range 300 {
			fmt.Fprintf(&table, "%s,%s,%s,%g,x,%d\r\n", started[i%2], h.Trainee, h.Rig, float64(i)/100, i)
		}
		return []request{
			by(c, "a correction in a round of 20000 hits", "POST", path+"/corrections",
				`{"strike":3,"verdict":"missed"}`),
			by(c, "a late mark in a round of 20000 hits", "POST", path+"/hits",
				`{"device":"late","hits":[],"marks":[{"seq":1,"at":5000000,"kind":"missed"}]}`),
			by(c, "review of a round of 20000 hits", "GET", path+"/review", ""),
			by(c, "import: 300 hits to and fro between two rounds", "POST",
				"/api/import?dry=true", table.String()),
		}, nil
	}
	return nil, fmt.Errorf("nobody has a drill on a bag that is struck by a line")
}

// fullRound holds a round of as many hits as one may have, and tells its id and when it began.
func fullRound(c client, assignment string) (id, started string, err error) {
	var run struct{ ID string }
	err = c.ask(http.MethodPost, "/api/runs", map[string]any{"assignmentId": assignment, "source": "keys"}, &run)
	path := "/api/runs/" + run.ID
	if err == nil {
		err = c.ask(http.MethodPost, path+"/clock", map[string]any{"action": "start", "clockUs": 0}, nil)
	}
	const batch, most = 500, 20_000
	for from := 0; from < most && err == nil; from += batch {
		hits := make([]any, batch)
		for i := range hits {
			hits[i] = map[string]any{"seq": from + i, "at": 8500 * (from + i)}
		}
		err = c.ask(http.MethodPost, path+"/hits", map[string]any{"device": "x", "hits": hits}, nil)
	}
	if err == nil {
		err = c.ask(http.MethodPost, path+"/clock", map[string]any{"action": "finish", "clockUs": 170_000_000}, nil)
	}
	var seen struct{ StartedAt string }
	if err == nil {
		err = c.ask(http.MethodGet, path+"/review", nil, &seen)
	}
	return run.ID, seen.StartedAt, err
}

// floor is a class in which a block was called wild 500 times.
func floor(c client) ([]request, error) {
	var people []struct{ ID string }
	var hour struct{ ID string }
	if err := c.ask(http.MethodGet, "/api/trainees", nil, &people); err != nil {
		return nil, err
	}
	err := c.ask(http.MethodPost, "/api/hours", map[string]any{"people": []string{people[0].ID}, "bags": []string{},
		"minutes": 60}, &hour)
	if err != nil {
		return nil, err
	}
	path := "/api/hours/" + hour.ID + "/floor"
	start := map[string]any{"action": "start", "clockUs": 0, "deeds": []any{}}
	if err := c.ask(http.MethodPost, path, start, nil); err != nil {
		return nil, err
	}
	deeds := make([]any, 500)
	for i := range deeds {
		deeds[i] = map[string]any{"id": fmt.Sprint("d", i), "deed": "wild", "at": 900_000_000 + i}
	}
	body, err := json.Marshal(map[string]any{"clockUs": 900_000_600, "deeds": deeds})
	return []request{by(c, "floor: wild 500 times", "POST", path, string(body)),
		by(c, "floor: its next word", "POST", path, `{"clockUs":901000000,"deeds":[]}`)}, err
}

// sound is that of the longest session there may be.
func sound(c client) ([]request, error) {
	var plans struct {
		Own []struct{ Session map[string]any }
	}
	if err := c.ask(http.MethodGet, "/api/sessions", nil, &plans); err != nil {
		return nil, err
	}
	if len(plans.Own) == 0 {
		return nil, fmt.Errorf("the gym has no session")
	}
	long := plans.Own[0].Session
	var work any
	for _, r := range long["rounds"].([]any) {
		if r.(map[string]any)["kind"] == "work" {
			work = r
		}
	}
	if work == nil {
		return nil, fmt.Errorf("the first session has no round")
	}
	many := make([]any, 24)
	for i := range many {
		many[i] = work
	}
	long["name"], long["rounds"] = "Long, of "+time.Now().Format(time.TimeOnly), many
	var made struct{ ID string }
	plan := map[string]any{"session": long, "version": 0}
	if err := c.ask(http.MethodPost, "/api/sessions", plan, &made); err != nil {
		return nil, err
	}
	return []request{by(c, "sound of 24 rounds", "GET", "/api/sessions/"+made.ID+"/wav", "")}, nil
}

// lyrics is a MIDI file with a note and many lyrics, each another.
func lyrics(n int) string {
	var track bytes.Buffer
	track.Write([]byte{0, 0x90, 60, 100, 0x60, 0x80, 60, 0})
	for i := range n {
		text := fmt.Sprintf("1-2-%d", i)
		track.Write([]byte{1, 0xff, 0x05, byte(len(text))})
		track.WriteString(text)
	}
	track.Write([]byte{0, 0xff, 0x2f, 0})
	var out bytes.Buffer
	out.WriteString("MThd")
	for _, part := range []any{uint32(6), uint16(0), uint16(1), uint16(480)} {
		_ = binary.Write(&out, binary.BigEndian, part) // a buffer takes all
	}
	out.WriteString("MTrk")
	_ = binary.Write(&out, binary.BigEndian, uint32(track.Len()))
	out.Write(track.Bytes())
	return out.String()
}
