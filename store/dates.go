package store

import (
	"context"
	"time"
)

// Date is a class that is to be held, once or every week, by the gym's own clock.
type Date struct {
	ID            string `gorm:"default:gen_random_uuid()"`
	GymID         string
	Name          string
	Day           time.Time `gorm:"type:date"`
	At            string    // time of day
	Minutes       int
	Weekly        bool
	Until         *time.Time `gorm:"type:date"` // nil for no end
	Skipped       Doc        `gorm:"type:jsonb"`
	Note          string
	SessionPlanID *string
	Version       int
	ArchivedAt    *time.Time
	CreatedAt     time.Time
}

// CalendarLink is an address at which whoever knows it reads the dates. Of its secret only the hash is kept.
type CalendarLink struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	Name      string
	Hash      string
	MadeBy    *string    // coach; nil where they have gone
	ReadAt    *time.Time // last
	RevokedAt *time.Time
	CreatedAt time.Time
}

// Dates lists the dates of a shelf, the earliest first.
func (g *Gym) Dates(shelf Shelf) ([]Date, error) { return listed[Date](g, shelf, "day, at, name, id") }

// Date returns one.
func (g *Gym) Date(id string) (Date, error) { return find[Date](g, id) }

// AddDate stores a new date and fills in its id.
func (g *Gym) AddDate(d *Date) error {
	d.GymID, d.Version = g.ID, 1
	return ownError(g.db.Create(d).Error)
}

// AddDates stores many at once and fills in their ids.
func (g *Gym) AddDates(list []Date) error {
	if len(list) == 0 {
		return nil
	}
	for i := range list {
		list[i].GymID, list[i].Version = g.ID, 1
	}
	return ownError(g.db.CreateInBatches(&list, 500).Error)
}

// ChangeDate stores a date over the version that was read, and reads it back.
func (g *Gym) ChangeDate(d *Date) error {
	err := g.over(&Date{}, d.ID, d.Version, map[string]any{"name": d.Name, "day": d.Day, "at": d.At,
		"minutes": d.Minutes, "weekly": d.Weekly, "until": d.Until, "skipped": string(d.Skipped), "note": d.Note,
		"session_plan_id": d.SessionPlanID})
	if err == nil {
		*d, err = g.Date(d.ID)
	}
	return err
}

// CalendarLinks lists the addresses of a gym that have not been revoked, the oldest first.
func (g *Gym) CalendarLinks() ([]CalendarLink, error) {
	rows := []CalendarLink{}
	return rows, ownError(g.rows().Where("revoked_at IS NULL").Order("created_at, id").Find(&rows).Error)
}

// AddCalendarLink stores a new address.
func (g *Gym) AddCalendarLink(l *CalendarLink) error {
	l.GymID = g.ID
	return ownError(g.db.Create(l).Error)
}

// RevokeCalendarLink ends an address for good.
func (g *Gym) RevokeCalendarLink(id string) error {
	return g.change(&CalendarLink{}, id, map[string]any{"revoked_at": g.Now()})
}

// CalendarLink finds an address by its hash, revoked or not, in whichever gym it is.
func (s *Store) CalendarLink(ctx context.Context, hash string) (CalendarLink, error) {
	var l CalendarLink
	return l, ownError(s.inEveryGym(ctx).Where("hash = ?", hash).Take(&l).Error)
}

// CalendarRead keeps that an address was read.
func (g *Gym) CalendarRead(id string) error {
	return g.change(&CalendarLink{}, id, map[string]any{"read_at": g.Now()})
}
