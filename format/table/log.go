package table

import (
	"io"
	"time"
)

// Round is a line of the log. A figure that is missing was not told.
type Round struct {
	Started   time.Time
	Person    string // "" of somebody who was erased
	Bag       string
	Kind      string // of bag
	Drill     string
	Rung      string
	Eased     string // what was easier than the rung has it
	Recorded  string // by what its hits were recorded
	Ended     string // by the bell, or how else
	Zone      string // of the clock by which it was held
	Lasted    Number // s
	Judged    bool
	Counts    bool // it counts for the ladder
	Wild      bool
	Headline  string
	Planned   int // strikes
	Hits      int // that were struck
	Clean     int
	Missed    *int
	Extra     *int
	Longest   int // in a row
	Passes    int
	Share     Number // that met the bag
	Give      Number // by how much that may be off
	Tempo     Number // that was held, strikes a minute
	Asked     Number // tempo that was asked for
	Offset    Number // s that was taken off all hits
	Predicted Number // share that was to meet the bag
	Faults    string // code, cost, effect, its error and how often, of each

	Figure string // of the bag, that the round tells of
	Value  Number
	Spread Number
	Steps  *int

	RatedClean *int
	RatedOf    *int
	RatedWord  string
	RatedBy    string
	Note       string
}

// Words that stand in the log.
var (
	Recorders = []string{"keys", "standin", "device", "file", "none"}
	Endings   = []string{"bell", "stopped", "vanished"}
	Ratings   = []string{"held", "shaky", "notYet"}
)

var rounds = []column[Round]{
	timed("started", func(r *Round) *time.Time { return &r.Started }),
	texted("person", func(r *Round) *string { return &r.Person }, 120),
	texted("bag", func(r *Round) *string { return &r.Bag }, 120).needed(),
	texted("kind", func(r *Round) *string { return &r.Kind }, 40),
	texted("drill", func(r *Round) *string { return &r.Drill }, 2000),
	texted("rung", func(r *Round) *string { return &r.Rung }, 60),
	texted("eased", func(r *Round) *string { return &r.Eased }, 400),
	worded("recorded", func(r *Round) *string { return &r.Recorded }, Recorders...),
	worded("ended", func(r *Round) *string { return &r.Ended }, Endings...),
	texted("zone", func(r *Round) *string { return &r.Zone }, 64),
	figure("lasted", func(r *Round) *Number { return &r.Lasted }, 0, 86_400),
	flagged("judged", func(r *Round) *bool { return &r.Judged }),
	flagged("counts", func(r *Round) *bool { return &r.Counts }),
	flagged("wild", func(r *Round) *bool { return &r.Wild }),
	texted("headline", func(r *Round) *string { return &r.Headline }, 400),
	counted("planned", func(r *Round) *int { return &r.Planned }),
	counted("hits", func(r *Round) *int { return &r.Hits }),
	counted("clean", func(r *Round) *int { return &r.Clean }),
	maybe("missed", func(r *Round) **int { return &r.Missed }),
	maybe("extra", func(r *Round) **int { return &r.Extra }),
	counted("longest", func(r *Round) *int { return &r.Longest }),
	counted("passes", func(r *Round) *int { return &r.Passes }),
	figure("share", func(r *Round) *Number { return &r.Share }, 0, 1),
	figure("give", func(r *Round) *Number { return &r.Give }, 0, 1),
	figure("tempo", func(r *Round) *Number { return &r.Tempo }, 0, 10_000),
	figure("asked", func(r *Round) *Number { return &r.Asked }, 0, 10_000),
	figure("offset", func(r *Round) *Number { return &r.Offset }, -60, 60),
	figure("predicted", func(r *Round) *Number { return &r.Predicted }, 0, 1),
	texted("faults", func(r *Round) *string { return &r.Faults }, 4000),
	texted("bag figure", func(r *Round) *string { return &r.Figure }, 60),
	figure("bag value", func(r *Round) *Number { return &r.Value }, -1e6, 1e6),
	figure("bag spread", func(r *Round) *Number { return &r.Spread }, 0, 1e6),
	maybe("bag steps", func(r *Round) **int { return &r.Steps }),
	maybe("rated clean", func(r *Round) **int { return &r.RatedClean }),
	maybe("rated of", func(r *Round) **int { return &r.RatedOf }),
	worded("rated", func(r *Round) *string { return &r.RatedWord }, Ratings...),
	texted("rated by", func(r *Round) *string { return &r.RatedBy }, 120),
	texted("note", func(r *Round) *string { return &r.Note }, 2000),
}

// WriteLog begins a log.
func WriteLog(out io.Writer) (*Writer[Round], error) { return newWriter(out, rounds) }

// ReadLog reads a log, and hands each round over with its line. It stops at the first that is refused, by it or by the
// row that takes it, with a Line.
func ReadLog(in io.Reader, row func(line int, r Round) error) error { return read(in, rounds, row) }

// Hit is a line of the hits.
type Hit struct {
	Started time.Time // of its round
	Person  string
	Bag     string
	At      Number // s on the round's clock
	Hand    string
	Force   Number // N
	Launch  Number // m/s
	Device  string
	N       int // by which the device numbered it
}

var hits = []column[Hit]{
	timed("started", func(h *Hit) *time.Time { return &h.Started }),
	texted("person", func(h *Hit) *string { return &h.Person }, 120),
	texted("bag", func(h *Hit) *string { return &h.Bag }, 120).needed(),
	figure("at", func(h *Hit) *Number { return &h.At }, -600, 86_400).needed(),
	worded("hand", func(h *Hit) *string { return &h.Hand }, "lead", "rear"),
	figure("force", func(h *Hit) *Number { return &h.Force }, 0, 100_000),
	figure("launch", func(h *Hit) *Number { return &h.Launch }, 0, 30),
	texted("device", func(h *Hit) *string { return &h.Device }, 60),
	counted("n", func(h *Hit) *int { return &h.N }),
}

// WriteHits begins a table of hits.
func WriteHits(out io.Writer) (*Writer[Hit], error) { return newWriter(out, hits) }

// ReadHits reads a table of hits, and hands each over with its line.
func ReadHits(in io.Reader, row func(line int, h Hit) error) error { return read(in, hits, row) }
