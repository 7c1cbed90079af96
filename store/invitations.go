package store

import (
	"context"
	"time"
)

// Invitation lets somebody into a gym as a coach, by a link whose secret is kept as a hash alone.
type Invitation struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	Secret    []byte // SHA-256
	ForWhom   string // what the coach who made it calls them
	InvitedBy string
	CoachID   *string // who made it; removed, they take it along
	ExpiresAt time.Time
	CreatedAt time.Time
}

// AddInvitation stores an invitation and fills in its id.
func (g *Gym) AddInvitation(i *Invitation) error {
	i.GymID = g.ID
	return ownError(g.db.Create(i).Error)
}

// Invitations lists those that hold, the newest first; the others go.
func (g *Gym) Invitations() ([]Invitation, error) {
	now := g.Now()
	if err := g.rows().Where("expires_at <= ?", now).Delete(&Invitation{}).Error; err != nil {
		return nil, ownError(err)
	}
	rows := []Invitation{}
	return rows, ownError(g.rows().Order("created_at DESC, id").Find(&rows).Error)
}

// Withdraw deletes an invitation.
func (g *Gym) Withdraw(id string) error {
	done := g.rows().Where("id = ?", id).Delete(&Invitation{})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return ownError(done.Error)
}

// InvitationBy finds the invitation of a secret while it holds.
func (s *Store) InvitationBy(ctx context.Context, secret []byte) (Invitation, error) {
	var i Invitation
	q := s.inEveryGym(ctx).Where("secret = ? AND expires_at > ?", secret, s.Now())
	return i, ownError(q.Take(&i).Error)
}

// Join makes a coach of the gym of an invitation, which is used up: once, whoever comes first.
func (g *Gym) Join(invitation string, c *Coach) error {
	return g.Together(func(in *Gym) error {
		done := in.rows().Where("id = ?", invitation).Delete(&Invitation{})
		if done.Error != nil || done.RowsAffected == 0 {
			if done.Error == nil {
				return ErrNotFound
			}
			return ownError(done.Error)
		}
		c.GymID, c.Email = g.ID, NormalEmail(c.Email)
		return ownError(in.db.Create(c).Error)
	})
}
