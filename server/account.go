package server

import (
	"context"
	"errors"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/account"
	"melodromos/core/input"
	"melodromos/store"
)

// CoachOut is somebody who signs in to the gym.
type CoachOut struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Email string `json:"email"`
	You   bool   `json:"you"`
}

// PasswordChange sets a new password; all other sign-ins end.
type PasswordChange struct {
	Old string `json:"old" maxLength:"200"`
	New string `json:"new" maxLength:"1000" doc:"10 to 200 characters"`
}

// Confirmation is a coach's own password, for what cannot be undone.
type Confirmation struct {
	Password string `json:"password" maxLength:"200" doc:"of whoever is signed in"`
}

func (s *Server) registerAccount(api huma.API) {
	huma.Post(api, "/api/account/password", func(ctx context.Context, in *struct {
		Source
		Body PasswordChange
	}) (*struct{}, error) {
		return nil, s.changePassword(ctx, in.ip, in.Body)
	})
	huma.Post(api, "/api/account/sign-out-everywhere", func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		c := who(ctx)
		if _, err := c.gym.SignOutEverywhere(c.Coach.ID); err != nil {
			return nil, refused(ctx, "", err)
		}
		return nil, refusedOrNil(ctx, s.signOut(ctx))
	})
	huma.Get(api, "/api/coaches", func(ctx context.Context, _ *struct{}) (*many[CoachOut], error) {
		rows, err := who(ctx).gym.Coaches()
		return listed(ctx, rows, err, sure(func(c store.Coach) CoachOut { return CoachOut{c.ID, c.Name, c.Email, c.ID == who(ctx).Coach.ID} }))
	})
	huma.Post(api, "/api/coaches/{id}/remove", func(ctx context.Context, in *struct {
		ByID
		Source
		Body Confirmation
	}) (*struct{}, error) {
		return nil, s.removeCoach(ctx, in.ip, in.ID, in.Body)
	})
}

// confirmed refuses unless a password is that of whoever is signed in, naming field.
func (s *Server) confirmed(ctx context.Context, ip, password, field string) error {
	c := who(ctx).Coach
	match, err := s.tryPassword(ctx, ip, c.Email, password, c)
	if err == nil && !match {
		err = input.Refuse(field, "this is not your password")
	}
	if err != nil {
		return refused(ctx, "body", err)
	}
	return nil
}

// notInDemo keeps the demo's account as its page shows it.
func notInDemo(ctx context.Context) error {
	if who(ctx).row.Demo {
		return huma.Error403Forbidden("The demo gym keeps its coach and password as they are shown.")
	}
	return nil
}

func (s *Server) changePassword(ctx context.Context, ip string, in PasswordChange) error {
	if err := notInDemo(ctx); err != nil {
		return err
	}
	if err := account.Password(in.New); err != nil {
		return refused(ctx, "body", input.Refuse("new", "%s", reasonOf(err)))
	}
	if err := s.confirmed(ctx, ip, in.Old, "old"); err != nil {
		return err
	}
	hash, err := account.Hash(ctx, in.New)
	if err != nil {
		return refused(ctx, "", err)
	}
	c := who(ctx)
	epoch, err := c.gym.SetPassword(c.Coach.ID, hash)
	if err != nil {
		return refused(ctx, "", err)
	}
	return refusedOrNil(ctx, s.begin(ctx, c.Coach.ID, epoch))
}

func reasonOf(err error) string {
	var field *input.Error
	if errors.As(err, &field) {
		return field.Reason
	}
	return err.Error()
}

func (s *Server) removeCoach(ctx context.Context, ip, id string, in Confirmation) error {
	if err := notInDemo(ctx); err != nil {
		return err
	}
	if err := s.confirmed(ctx, ip, in.Password, "password"); err != nil {
		return err
	}
	err := who(ctx).gym.RemoveCoach(id)
	if errors.Is(err, store.ErrLast) {
		return huma.Error409Conflict("This is the gym's last coach: nobody could sign in any more. Add another one first, or remove the gym.")
	}
	return refusedOrNil(ctx, err)
}
