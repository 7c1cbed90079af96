package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/account"
	"melodromos/core/input"
	"melodromos/server/door"
	"melodromos/store"
)

// InvitationOut lets somebody into the gym as a coach. Its secret is told once, to whoever made it.
type InvitationOut struct {
	ID        string    `json:"id" readOnly:"true"`
	ForWhom   string    `json:"forWhom" maxLength:"120" doc:"what they are called, to tell one from the other"`
	InvitedBy string    `json:"invitedBy,omitempty" readOnly:"true"`
	ExpiresAt time.Time `json:"expiresAt,omitzero" readOnly:"true"`
	Secret    string    `json:"secret,omitempty" readOnly:"true" doc:"of the link; told when it is made, and never again"`
}

// Inviting asks for a link.
type Inviting struct {
	ForWhom string `json:"forWhom" maxLength:"120" doc:"what they are called, to tell one from the other"`
}

// BySecret names an invitation by its secret.
type BySecret struct {
	Secret string `json:"secret" maxLength:"100"`
}

// Welcome tells whoever opens the link of an invitation what they are invited to.
type Welcome struct {
	Gym       string `json:"gym"`
	InvitedBy string `json:"invitedBy"`
	ForWhom   string `json:"forWhom"`
}

// Joining makes a coach of whoever has the link.
type Joining struct {
	Secret   string `json:"secret" maxLength:"100"`
	Name     string `json:"name" maxLength:"120"`
	Email    string `json:"email" maxLength:"254"`
	Password string `json:"password" maxLength:"1000" doc:"10 to 200 characters"`
}

const invited = 7 * 24 * time.Hour // that a link holds

var errUsedUp = huma.Error404NotFound(
	"This invitation holds no longer: it was used, withdrawn, or is older than a week. Ask for a new one.")

func hashed(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

func invitationOut(i store.Invitation) (InvitationOut, error) {
	return InvitationOut{ID: i.ID, ForWhom: i.ForWhom, InvitedBy: i.InvitedBy, ExpiresAt: i.ExpiresAt}, nil
}

func (c caller) invite(forWhom string) (InvitationOut, error) {
	if err := notInDemo(c); err != nil {
		return InvitationOut{}, err
	}
	secret := rand.Text()
	i := store.Invitation{Secret: hashed(secret), ForWhom: forWhom, InvitedBy: c.Coach.Name, CoachID: &c.Coach.ID,
		ExpiresAt: c.Gym.Now().Add(invited)}
	if err := c.Gym.AddInvitation(&i); err != nil {
		return InvitationOut{}, err
	}
	out, err := invitationOut(i)
	out.Secret = secret
	return out, err
}

// registerInvitations registers what coaches do with invitations.
func (s *Server) registerInvitations(api huma.API) {
	get(api, "/api/invitations", func(c caller, _ *nothing) ([]InvitationOut, error) {
		rows, err := c.Gym.Invitations()
		return eachRow(rows, err, invitationOut)
	})
	post(api, "/api/invitations", func(c caller, in *body[Inviting]) (InvitationOut, error) {
		return c.invite(in.Body.ForWhom)
	})
	command(api, http.MethodDelete, "/api/invitations/{id}",
		func(c caller, in *ByID) error { return c.Gym.Withdraw(in.ID) })
}

// registerJoining registers what is asked by somebody who has a link and no account yet.
func (s *Server) registerJoining() {
	huma.Post(s.api, "/api/join/look", func(ctx context.Context, in *struct {
		Source
		Body BySecret
	}) (*body[Welcome], error) {
		i, gym, err := s.invitation(ctx, in.ip, in.Body.Secret)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return &body[Welcome]{Welcome{gym.Name, i.InvitedBy, i.ForWhom}}, nil
	})
	huma.Post(s.api, "/api/join", func(ctx context.Context, in *struct {
		Source
		Body Joining
	}) (*body[Me], error) {
		me, err := s.join(ctx, in.ip, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &body[Me]{me}, nil
	})
}

// invitation finds an invitation by its secret; wrong ones make whoever tries them wait.
func (s *Server) invitation(ctx context.Context, ip, secret string) (store.Invitation, store.GymRow, error) {
	right, wait := s.tries.Begin(map[string]door.Allowance{"joining from " + door.Network(ip): door.FromSource})
	if wait > 0 {
		return store.Invitation{}, store.GymRow{}, waits(wait)
	}
	i, err := s.store.InvitationBy(ctx, hashed(secret))
	if errors.Is(err, store.ErrNotFound) {
		return i, store.GymRow{}, errUsedUp
	}
	right()
	if err != nil {
		return i, store.GymRow{}, err
	}
	gym, err := s.store.Gym(ctx, i.GymID).Row()
	return i, gym, err
}

// join makes a coach of whoever has the link, and signs them in.
func (s *Server) join(ctx context.Context, ip string, in Joining) (Me, error) {
	i, gym, err := s.invitation(ctx, ip, in.Secret)
	if err != nil {
		return Me{}, err
	}
	name, err := input.Name("name", in.Name)
	if err == nil {
		err = account.Email(in.Email)
	}
	if err == nil {
		err = account.Password(in.Password)
	}
	if err != nil {
		return Me{}, err
	}
	c := store.Coach{Name: name, Email: in.Email}
	if c.PasswordHash, err = account.Hash(ctx, in.Password); err != nil {
		return Me{}, err
	}
	err = s.store.Gym(ctx, i.GymID).Join(i.ID, &c)
	switch {
	case errors.Is(err, store.ErrTaken):
		return Me{}, input.Refuse("email", "somebody signs in with this address already: take another one")
	case errors.Is(err, store.ErrNotFound):
		return Me{}, errUsedUp
	case err != nil:
		return Me{}, err
	}
	return meOf(c, gym), s.begin(ctx, c.ID, c.Epoch)
}
