package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/ledger"
	"melodromos/store"
)

// NotRead is a row that is kept and cannot be read: it stands in its list with what can be done about it.
type NotRead struct {
	Kind store.RowKind `json:"kind" enum:"bag,drill,assignment,session,class,date,round"`
	ID   string        `json:"id"`
	Name string        `json:"name"`
	Why  string        `json:"why"`
}

// Which names a row of a kind.
type Which struct {
	Kind store.RowKind `path:"kind" enum:"bag,drill,assignment,session,class,date,round"`
	ByID
}

// unread lists what cannot be read.
func (c caller) unread() ([]NotRead, error) {
	rows, err := ledger.NotRead(c.Gym)
	return eachRow(rows, err, func(u store.Unreadable) (NotRead, error) {
		return NotRead{u.Kind, u.ID, u.Name, u.Why}, nil
	})
}

// notRead finds a row that cannot be read; any other is not found here.
func (c caller) notRead(in Which) (store.Unreadable, error) {
	u := store.Unreadable{Kind: in.Kind, ID: in.ID}
	err := ledger.Reopen(c.Gym, u)
	var unreadable *ledger.Unreadable
	if errors.As(err, &unreadable) {
		return unreadable.Unreadable, nil
	}
	if err == nil {
		err = store.ErrNotFound
	}
	return u, err
}

// cannotBeRead is the answer to whoever opens a row that cannot be read: which it is stands beside the sentence.
func cannotBeRead(u *ledger.Unreadable) error {
	return huma.Error422UnprocessableEntity(
		fmt.Sprintf("%s could not be read: %s. Nothing else is touched by it. It can be removed, or downloaded as it is.",
			u.Name, u.Why),
		&huma.ErrorDetail{Location: "unreadable", Message: u.Why, Value: NotRead{u.Kind, u.ID, u.Name, u.Why}})
}

func (s *Server) registerUnreadable(api huma.API) {
	get(api, "/api/unreadable", func(c caller, _ *nothing) ([]NotRead, error) { return c.unread() })
	command(api, "POST", "/api/unreadable/{kind}/{id}/remove", func(c caller, in *Which) error {
		u, err := c.notRead(*in)
		if err == nil {
			err = ledger.Remove(c.Gym, u)
		}
		return err
	})
	const file = "/api/unreadable/{kind}/{id}/file"
	huma.Get(api, file, func(ctx context.Context, in *Which) (*huma.StreamResponse, error) {
		c := callerOf(ctx)
		u, err := c.notRead(*in)
		var row json.RawMessage
		if err == nil {
			row, err = c.Gym.AsItIs(u.Kind, u.ID)
		}
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return &huma.StreamResponse{Body: func(ctx huma.Context) {
			ctx.SetHeader("Content-Type", "application/json")
			ctx.SetHeader("Content-Disposition",
				fmt.Sprintf("attachment; filename=%q", "melodromos-"+string(u.Kind)+"-"+u.ID[:8]+".json"))
			_, _ = ctx.BodyWriter().Write(row)
		}}, nil
	})
}
