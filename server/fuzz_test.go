package server

import (
	"cmp"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/calc"
	"melodromos/core/catalogue"
	"melodromos/core/drill"
	"melodromos/core/session"
	"melodromos/server/door"
)

var (
	fuzzRequests = flag.Int("requests", 2000, "how many requests are made from the OpenAPI document")
	fuzzSeed     = flag.Uint64("fuzzseed", 20, "the same seed makes the same requests")
)

// request makes one for an operation.
func (m *maker) request(base, method, path string, op *huma.Operation) (*http.Request, string) {
	m.wild = m.one(0.5)
	query, asks, operation := url.Values{}, "", method+" "+path
	for _, p := range op.Parameters {
		var text string
		switch {
		case p.Name == "op":
			text = pick(m, append(calc.Operations(), "dance"))
			asks = text
		case p.Name == "id" && strings.Contains(path, "{correction}") && len(m.ids["corrections"]) > 0:
			text = m.id("corrected")
		case p.Name == "id" && strings.HasSuffix(path, "/remedy") && len(m.ids["mended"]) > 0:
			text = m.id("mended")
		case p.Name == "id":
			text = m.id(strings.Split(path, "/")[2])
		case p.Name == "trainee" || p.Name == "correction":
			text = m.id(p.Name + "s")
		case p.Name == "kind" && strings.HasPrefix(path, "/api/unreadable") && !m.odd(0.3):
			text = "drill"
		case p.Name == "key" && !m.odd(0.3):
			text = m.key
		case p.Name == "before":
			text = pick(m, []string{"2026-11-26T00:00:00Z", "2030-11-26T00:00:00Z", "0001-01-01T00:00:00Z", "x",
				"9999-12-31T23:59:59Z"})
		default:
			text = strings.Trim(fmt.Sprint(m.value(p.Name, p.Schema, 0)), "[]")
		}
		if p.In == "path" {
			path = strings.Replace(path, "{"+p.Name+"}", url.PathEscape(text), 1)
		} else if m.one(0.7) {
			query.Set(p.Name, text)
		}
	}
	body := ""
	if op.RequestBody != nil {
		if asks == "" && op.RequestBody.Content["application/octet-stream"] != nil {
			body = pick(m, m.files)
			if cut := m.IntN(len(body)); m.one(0.3) {
				body = body[:cut] + pick(m, m.files)[:8] + body[cut:]
			}
		} else if content := op.RequestBody.Content["application/json"]; content != nil && content.Schema != nil {
			v := m.value("", content.Schema, 0)
			if o, ok := v.(map[string]any); ok && o["source"] == "standin" {
				o["source"] = "keys" // a round that plays by itself goes on after the test
			} else if ok && strings.HasSuffix(path, "/rating") && m.one(0.5) {
				o["version"], o["word"] = 0, "held"
				delete(o, "clean")
				delete(o, "outOf")
			} else if ok && strings.HasSuffix(path, "/corrections") && m.one(0.5) {
				o["strike"] = 0
			} else if ok && strings.HasSuffix(path, "/times") && m.one(0.5) {
				o["table"] = "time,hand\n0.5,lead\n1,rear\n"
			} else if ok && strings.HasSuffix(path, "/remedy") && m.one(0.5) {
				o["code"] = m.fault
			} else if ok && path == "/api/combo-tempo" && m.one(0.5) {
				o["tempo"] = 180 + 100*m.Float64() // what bags give
			} else if ok && strings.HasSuffix(path, "/seat") && m.one(0.5) {
				o["round"] = m.IntN(4)
			} else if ok && strings.HasPrefix(path, "/api/dates") && m.one(0.7) {
				o["day"], o["at"], o["until"] = "2026-03-05", "18:30", "2027-03-05"
				o["weekly"], o["skipped"], o["version"] = true, []string{}, 0
				delete(o, "sessionId")
			} else if ok && strings.HasSuffix(path, "/erase") {
				o["name"] = "Nobody" // whoever is erased is asked for in vain from then on
			}
			text, err := json.Marshal(v)
			if err != nil {
				panic(err)
			}
			body = string(text)
		} else {
			text, err := json.Marshal(m.question(asks))
			if err != nil {
				panic(err)
			}
			body = string(text)
		}
		if fit, there := m.fit[operation]; there && m.one(0.3) {
			body = fit
		}
		if m.odd(0.02) {
			body = body[:m.IntN(len(body)+1)]
		}
	}
	if len(query) > 0 {
		path += "?" + query.Encode()
	}
	req, err := http.NewRequest(method, base+path, strings.NewReader(body))
	if err != nil {
		panic(err)
	}
	req.Header.Set("Content-Type", "application/json")
	return req, body
}

// furnish gives a gym one of everything, for requests to name.
func (m *maker) furnish(u user) {
	person, rigs := u.hung(fuzzKinds...)
	m.ids, m.rigs = map[string][]string{"trainees": {person.ID}}, map[string]json.RawMessage{}
	for _, kind := range fuzzKinds {
		m.rigs[kind], _ = json.Marshal(rigs[kind].Doc)
		m.ids["rigs"] = append(m.ids["rigs"], rigs[kind].ID)
	}
	m.plans = catalogue.All()
	for _, e := range m.plans[:12] {
		var d Assignment
		u.want(200, "POST", "/api/assignments", Assignment{RigID: rigs[string(e.Kind)].ID, TraineeID: person.ID,
			Doc: DrillDoc{Plan: e.Plan}}, &d)
		for _, source := range []drill.Recorder{drill.Taps, drill.Sensor, drill.Nothing} {
			var run Run
			u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: source}, &run)
			m.ids["runs"], m.key = append(m.ids["runs"], run.ID), run.IntakeKey
			if source != drill.Sensor { // over, so that there is something to judge
				m.corrected(u, run)
			}
		}
		m.ids["assignments"], m.ids["drills"] = append(m.ids["assignments"], d.ID), append(m.ids["drills"], d.DrillID)
	}
	for _, t := range session.Templates()[:4] {
		var plan SessionPlan
		u.want(200, "POST", "/api/sessions", SessionPlan{Session: t.Session}, &plan)
		var h HeldClass
		u.want(200, "POST", "/api/hours", ClassQuestion{People: []string{person.ID}, Bags: []string{}, Minutes: 30}, &h)
		m.ids["sessions"], m.ids["hours"] = append(m.ids["sessions"], plan.ID), append(m.ids["hours"], h.ID)
	}
	var caution Caution
	u.want(200, "POST", "/api/trainees/"+person.ID+"/cautions", Caution{Kind: "wrist"}, &caution)
	var date ClassDate
	u.want(200, "POST", "/api/dates", thursdays, &date)
	var link CalendarLinkOut
	u.want(200, "POST", "/api/calendar-links", CalendarLinkOut{Name: "Phone"}, &link)
	m.ids["dates"], m.ids["calendar-links"] = []string{date.ID}, []string{link.ID}
	m.files = nil
	for _, path := range []string{"export/gym", "export/log", "export/hits", "drills/" + m.ids["drills"][0] + "/midi",
		"sessions/" + m.ids["sessions"][0] + "/document"} {
		m.files = append(m.files, u.want(200, "GET", "/api/"+path, nil, nil))
	}
	var coaches []CoachOut
	u.want(200, "GET", "/api/coaches", nil, &coaches)
	m.fit = map[string]string{"PUT /api/gym": u.want(200, "GET", "/api/gym", nil, nil)}
	for operation, body := range map[string]any{
		"POST /api/hours":            ClassQuestion{People: []string{person.ID}, Bags: []string{}, Minutes: 30},
		"POST /api/trainees":         Trainee{Name: "Oke", Stance: "southpaw", Band: "novice"},
		"POST /api/hours/{id}/drill": Choosing{person.ID, m.ids["assignments"][0]},
		"PUT /api/dates/{id}":        date,
		"PUT /api/trainees/{id}":     person,
		"POST /api/intake/{key}":     Batch{Device: "x", Hits: []HitIn{{Seq: 1, At: at(9_000_000)}}},
	} {
		text, _ := json.Marshal(body)
		m.fit[operation] = string(text)
	}
	m.ids["cautions"], m.ids["coaches"] = []string{caution.ID}, []string{coaches[0].ID}
	for range 4 { // some are withdrawn
		var i InvitationOut
		u.want(200, "POST", "/api/invitations", Inviting{"Runa's aunt"}, &i)
		m.ids["invitations"], m.secret = append(m.ids["invitations"], i.ID), i.Secret
	}
	m.ids["invitations"] = m.ids["invitations"][:3] // but not the one that is known
}

// unread is the id of a drill in the gym of this user that could not be read.
func (s site) unread(t *testing.T, u user) string {
	var d Drill
	odd := catalogue.All()[0]
	u.want(200, "POST", "/api/drills", Drill{Kind: odd.Kind, Name: "Odd", Doc: DrillDoc{Plan: odd.Plan}}, &d)
	s.sql(t, "UPDATE drills SET doc = '{}' WHERE id = $1", d.ID)
	u.do("GET", "/api/drills/"+d.ID, nil)
	return d.ID
}

// corrected ends a round and corrects it, where it has a strike.
func (m *maker) corrected(u user, run Run) {
	path := "/api/runs/" + run.ID
	u.want(200, "POST", path+"/clock", Step{"start", 0}, nil)
	var hits []HitIn
	for i, e := range planned(run) {
		hits = append(hits, HitIn{Seq: i, At: at(int64(e.At) + 70_000*int64(i%2)), Hand: e.Hand})
	}
	if run.Source == drill.Taps && len(hits) > 0 {
		u.want(200, "POST", path+"/hits", Batch{Device: "x", Hits: hits[:min(len(hits), 400)]}, nil)
	}
	u.want(200, "POST", path+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	if run.Source == drill.Taps && len(hits) > 0 {
		var v Review
		u.want(200, "POST", path+"/corrections", Said{0, "missed"}, &v)
		for _, f := range v.Faults {
			if f.Offer != nil {
				m.ids["mended"], m.fault = []string{run.ID}, string(f.Code)
			}
		}
		m.ids["corrections"], m.ids["corrected"] = []string{v.Corrections[0].ID}, []string{run.ID}
	}
}

// within200 returns the fault of an answer with status 200: JSON that is none, or breaks off.
func within200(res *http.Response, out []byte) string {
	media := res.Header.Get("Content-Type")
	if strings.HasPrefix(media, "application/json") && res.StatusCode != http.StatusNoContent && !json.Valid(out) {
		return fmt.Sprintf("no JSON: …%.200s", out[max(0, len(out)-200):])
	}
	return ""
}

// readBack reads every list, whatever was stored meanwhile.
func (s site) readBack(t *testing.T, u user, n int) {
	for _, path := range []string{"today", "class", "trainees", "rigs", "drills", "library", "sessions", "hours",
		"dates", "runs", "calendar", "progress", "coaches", "invitations", "calendar-links", "unreadable", "gym",
		"export/gym", "export/log", "export/hits"} {
		if status, _, out := u.do("GET", "/api/"+path, nil); status != 200 {
			t.Errorf("after %d requests: GET /api/%s: %d %.300s", n, path, status, out)
		}
	}
}

type operation struct {
	method, path string
	*huma.Operation
}

func operations(doc *huma.OpenAPI) (list []operation) {
	for path, item := range doc.Paths {
		for method, op := range map[string]*huma.Operation{"GET": item.Get, "POST": item.Post, "PUT": item.Put,
			"DELETE": item.Delete} {
			if op != nil {
				list = append(list, operation{method, path, op})
			}
		}
	}
	slices.SortFunc(list, func(a, b operation) int { return strings.Compare(a.path+a.method, b.path+b.method) })
	return list
}

// Whatever is asked along the description of the interface, the server has an answer of its own: no request ends in a
// fault of it.
func TestLongRequestsFromTheDescription(t *testing.T) {
	s := newSite(t)
	s.gate.Unbounded(door.Network("127.0.0.1")) // here all may be asked
	m := &maker{Rand: rand.New(rand.NewPCG(*fuzzSeed, 1)), doc: s.api.OpenAPI()}
	all := operations(m.doc)
	var u user
	answered, taken, longest := map[int]int{}, map[string]int{}, map[string]time.Duration{}
	for n := range *fuzzRequests {
		if n%400 == 399 {
			s.readBack(t, u, n)
		}
		if n%1500 == 0 { // what has been made makes answers long
			u = s.coach(t, fmt.Sprint("Juniper", n))
			m.email = u.email
			m.furnish(u)
			m.ids["unreadable"] = []string{s.unread(t, u)}
		}
		o := all[n%len(all)]
		req, body := m.request(u.url, o.method, o.path, o.Operation)
		began := time.Now()
		res, err := u.client.Do(req)
		if err != nil {
			t.Fatalf("request %d: %s %s %.500s: %v", n, o.method, req.URL, body, err)
		}
		out, _ := io.ReadAll(res.Body)
		_ = res.Body.Close()
		longest[o.path] = max(longest[o.path], time.Since(began))
		answered[res.StatusCode]++
		switch {
		case res.StatusCode >= 500:
			t.Errorf("request %d: %s %s %.800s: %d %.300s", n, o.method, req.URL, body, res.StatusCode, out)
		case res.StatusCode < 300:
			taken[o.method+" "+o.path]++
			if wrong := within200(res, out); wrong != "" {
				t.Errorf("request %d: %s %s %.800s: %d with %s", n, o.method, req.URL, body, res.StatusCode, wrong)
			}
		}
		if strings.Contains(o.path, "sign-out") || res.StatusCode == 401 && o.path != "/api/sign-in" {
			u.client = s.stranger(t).client
			u.want(200, "POST", "/api/sign-in", signInBody{u.email, password}, nil)
		}
	}
	s.readBack(t, u, *fuzzRequests)
	slow := slices.SortedFunc(maps.Keys(longest), func(a, b string) int { return cmp.Compare(longest[b], longest[a]) })
	for _, path := range slow[:5] {
		t.Logf("took at most %s: %s", longest[path].Round(time.Millisecond), path)
	}
	t.Logf("%v; %d of %d operations were carried out", answered, len(taken), len(all))
	if good := answered[200] + answered[204]; good < *fuzzRequests/5 {
		t.Errorf("only %d of %d requests were taken: the rest was refused too soon to try anything", good,
			*fuzzRequests)
	}
	for _, o := range all {
		if taken[o.method+" "+o.path] == 0 {
			t.Logf("never carried out: %s %s", o.method, o.path)
		}
	}
	if len(taken) < len(all)*9/10 {
		t.Errorf("only %d of %d operations were carried out", len(taken), len(all))
	}
}
