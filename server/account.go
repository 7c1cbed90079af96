package server

import (
	"errors"
	"net/http"

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

// AccountName holds a coach's name.
type AccountName struct {
	Name string `json:"name" maxLength:"120"`
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
	command(api, http.MethodPost, "/api/account/password", func(c caller, in *struct {
		Source
		Body PasswordChange
	}) error {
		return s.changePassword(c, in.ip, in.Body)
	})
	command(api, http.MethodPost, "/api/account/sign-out-everywhere", func(c caller, _ *nothing) error {
		if _, err := c.Gym.SignOutEverywhere(c.Coach.ID); err != nil {
			return err
		}
		return s.signOut(c.ctx)
	})
	put(api, "/api/account", func(c caller, in *body[AccountName]) (Me, error) {
		name, err := input.Name("name", in.Body.Name)
		if err == nil {
			err = notInDemo(c)
		}
		if err == nil {
			err = c.Gym.RenameCoach(c.Coach.ID, name)
		}
		c.Coach.Name = name
		return meOf(c.Coach, c.Row), err
	})
	get(api, "/api/coaches", func(c caller, _ *nothing) ([]CoachOut, error) {
		rows, err := c.Gym.Coaches()
		return eachRow(rows, err, func(row store.Coach) (CoachOut, error) {
			return CoachOut{row.ID, row.Name, row.Email, row.ID == c.Coach.ID}, nil
		})
	})
	command(api, http.MethodPost, "/api/coaches/{id}/remove", func(c caller, in *struct {
		Addressed[Confirmation]
		Source
	}) error {
		return s.removeCoach(c, in.ip, in.ID, in.Body)
	})
}

// confirmed refuses unless a password is that of whoever is signed in, naming field.
func (s *Server) confirmed(c caller, ip, password, field string) error {
	match, err := s.tryPassword(c.ctx, ip, c.Coach.Email, password, c.Coach)
	if err == nil && !match {
		err = input.Refuse(field, "this is not your password")
	}
	return err
}

// notInDemo keeps the demo's account as its page shows it.
func notInDemo(c caller) error {
	if c.Row.Demo {
		return huma.Error403Forbidden("The demo gym keeps its coach and password as they are shown.")
	}
	return nil
}

func (s *Server) changePassword(c caller, ip string, in PasswordChange) error {
	if err := notInDemo(c); err != nil {
		return err
	}
	if err := account.Password(in.New); err != nil {
		return input.Refuse("new", "%s", reasonOf(err))
	}
	if err := s.confirmed(c, ip, in.Old, "old"); err != nil {
		return err
	}
	hash, err := account.Hash(c.ctx, in.New)
	if err != nil {
		return err
	}
	epoch, err := c.Gym.SetPassword(c.Coach.ID, hash)
	if err != nil {
		return err
	}
	return s.begin(c.ctx, c.Coach.ID, epoch)
}

func reasonOf(err error) string {
	var field *input.Error
	if errors.As(err, &field) {
		return field.Reason
	}
	return err.Error()
}

func (s *Server) removeCoach(c caller, ip, id string, in Confirmation) error {
	if err := notInDemo(c); err != nil {
		return err
	}
	if err := s.confirmed(c, ip, in.Password, "password"); err != nil {
		return err
	}
	err := c.Gym.RemoveCoach(id)
	if errors.Is(err, store.ErrLast) {
		return huma.Error409Conflict(
			"This is the gym's last coach: nobody could sign in any more. Add another one first, or remove the gym.")
	}
	return err
}
