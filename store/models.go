package store

import (
	"encoding/json"
	"time"
)

// Doc is a JSON document that the core has checked.
type Doc = json.RawMessage

// GymRow is a gym.
type GymRow struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	Name      string
	Units     string // "metric" or "imperial"
	Zone      string // IANA name
	Demo      bool
	CreatedAt time.Time

	// Borders (s) between cords too slack, for head movement, for combinations, and too tight.
	BorderSlack float64 `gorm:"default:0.45"`
	BorderHead  float64 `gorm:"default:0.32"`
	BorderTight float64 `gorm:"default:0.17"`

	Kicks      bool   // kicks, knees and elbows are trained here
	PunchNames string `gorm:"default:numbers"` // "numbers" or "names"
	SlipNames  string `gorm:"default:sides"`   // "sides" (lead and rear) or "inside" (and outside)

	// Gate of a rung, before the next one.
	GateClean  float64 `gorm:"default:0.8"`
	GateRun    int     `gorm:"default:10"`
	GateRounds int     `gorm:"default:2"`
}

// TableName is the table's name.
func (GymRow) TableName() string { return "gyms" }

// Coach is a person who signs in.
type Coach struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	GymID        string
	Email        string // lower case
	Name         string
	PasswordHash string
	Epoch        int // sign-ins of an earlier one have ended
	CreatedAt    time.Time
}

// Trainee is a person who trains. Lengths are in metres; nil where not measured.
type Trainee struct {
	ID       string `gorm:"default:gen_random_uuid()"`
	GymID    string
	Name     string
	Stance   string
	Band     string
	AgeBand  string
	Height   *float64
	Reach    *float64
	Eye      *float64 // above the floor, in stance
	Mouth    *float64
	Chin     *float64
	Notes    string
	Goals    string
	Dominant string // "left", "right" or "" where it follows the stance
	Weak     string // "lead", "rear" or ""
	Sport    string `gorm:"default:boxing"` // "boxing" or "kicking"
	School   string // "fistRoll" where that comes first on the speed bag

	// Weeks, as they build up; WeeksFrom is nil where nothing is planned.
	WeeksFrom   *time.Time `gorm:"type:date"`
	WeeksDays   string     `gorm:"default:2,4"` // days of the week, 0 for Sunday, with commas
	WeeksRounds int        `gorm:"default:4"`
	WeeksMost   int        `gorm:"default:8"`

	RetiredAt *time.Time
	CreatedAt time.Time
}

// Rig is a bag as it hangs. Version counts its changes.
type Rig struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	Name       string
	Kind       string
	Doc        Doc `gorm:"type:jsonb"`
	Place      Doc `gorm:"type:jsonb"`
	Version    int
	MeasuredAt time.Time // when a measure was last changed
	RetiredAt  *time.Time
	CreatedAt  time.Time
}

// Calibration is what measuring found out about a rig: one parameter, fitted from evidence, and what stood there before.
type Calibration struct {
	ID            string `gorm:"default:gen_random_uuid()"`
	GymID         string
	RigID         string
	RigVersion    int // that it made
	Method        string
	Parameter     string
	Was           float64
	WasMeasuredAt time.Time // what the rig's MeasuredAt was before
	Value         float64
	Spread        *float64 // standard error of Value
	Residual      *float64 // s
	Evidence      Doc      `gorm:"type:jsonb"`
	UndoneAt      *time.Time
	CreatedAt     time.Time
}

// Drill is what one trainee does on one rig.
type Drill struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	Name      string
	RigID     string
	TraineeID string
	Doc       Doc    `gorm:"type:jsonb"`
	Rung      string // of the ladder that it was made for; "" for none
	Version   int
	RetiredAt *time.Time
	CreatedAt time.Time
}

// RunState tells how far a run has come.
type RunState string

// A run is ready until its clock starts. Stopped runs keep their hits; done ones came to their closing bell.
const (
	RunReady   RunState = "ready"
	RunRunning RunState = "running"
	RunPaused  RunState = "paused"
	RunDone    RunState = "done"
	RunStopped RunState = "stopped"
)

// Over says whether the run has ended.
func (s RunState) Over() bool { return s == RunDone || s == RunStopped }

// Run is one round on a bag, with the rig, the drill and the timeline it was run with.
type Run struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	DrillID    string
	RigID      string
	TraineeID  string
	CoachID    *string // nil where the coach was removed
	DrillName  string
	Rung       string // of the drill, as it was
	RigDoc     Doc    `gorm:"type:jsonb"`
	DrillDoc   Doc    `gorm:"type:jsonb"`
	Timeline   Doc    `gorm:"type:jsonb"`
	Source     string
	Plays      string `gorm:"default:beat"` // "beat", "follow" or "startThenFollow"
	State      RunState
	Ending     Ending
	IntakeHash string
	LatencyUS  *int64
	ClockUS    int64
	ZeroAt     *time.Time
	Zone       string
	SeenAt     time.Time
	StartedAt  *time.Time
	EndedAt    *time.Time
	Summary    Doc        `gorm:"type:jsonb"`
	Predicted  *float64   // share of the strikes that was to meet the bag, by the models alone; nil where nothing was predicted
	RemovedAt  *time.Time // from the log; it can be brought back
	CreatedAt  time.Time
}

// Ending says how a run came to its end.
type Ending string

// A run ends at its bell, is stopped by the coach, or ends because its screen was not heard of any more.
const (
	AtBell   Ending = "bell"
	Stopped  Ending = "stopped"
	Vanished Ending = "vanished"
)

// Now returns the run's clock in microseconds at a wall time.
func (r Run) Now(at time.Time) int64 {
	if r.ZeroAt == nil {
		return r.ClockUS
	}
	return max(r.ClockUS, at.Sub(*r.ZeroAt).Microseconds())
}

// Hit is one captured hit, numbered by whoever captured it.
type Hit struct {
	GymID  string
	RunID  string
	Device string
	Seq    int
	AtUS   int64
	Hand   *string
	Force  *float64 // N, where the sensor tells
	Launch *float64 // m/s at which the bag was driven off, where the sensor tells
}

// Mark is something a coach saw at a moment of a run.
type Mark struct {
	GymID  string
	RunID  string
	Device string
	Seq    int
	AtUS   int64
	Kind   string
}
