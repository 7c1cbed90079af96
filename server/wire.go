package server

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// body is the body of a request or of an answer.
type body[T any] struct{ Body T }

// ByID takes the id of the address.
type ByID struct {
	ID string `path:"id" format:"uuid"`
}

// Addressed is a request about one thing, whose id stands in the path.
type Addressed[T any] struct {
	ByID
	Body T
}

// Making is a request to make something. Its key, which the sender makes up, becomes the new thing's id: sent again,
// because Save was pressed twice or an answer was lost on the way, it is the same thing, as it is sent now.
type Making[T any] struct {
	Key  string `header:"Idempotency-Key" format:"uuid" doc:"the sender's: sent twice, one is made"`
	Body T
}

// made makes a thing, or changes the one that was made by the same key before; nobody else may have changed it since.
func made[T any](key string, add, change func() (T, error)) (T, error) {
	out, err := add()
	if key != "" && errors.Is(err, store.ErrTaken) {
		return change()
	}
	return out, err
}

// asMade is the version of a thing that nobody has changed since it was made.
const asMade = 1

// nothing is asked, or answered.
type nothing = struct{}

// get answers a question of whoever is signed in.
func get[I, O any](api huma.API, path string, do func(c caller, in *I) (O, error)) {
	huma.Get(api, path, answered(do))
}

// post takes what whoever is signed in has sent.
func post[I, O any](api huma.API, path string, do func(c caller, in *I) (O, error)) {
	huma.Post(api, path, answered(do))
}

// put takes a new version of the thing of an address.
func put[I, O any](api huma.API, path string, do func(c caller, in *I) (O, error)) {
	huma.Put(api, path, answered(do))
}

// command does something that has no answer.
func command[I any](api huma.API, method, path string, do func(c caller, in *I) error) {
	handle := func(ctx context.Context, in *I) (*struct{}, error) {
		if err := do(callerOf(ctx), in); err != nil {
			return nil, refused(ctx, "body", err)
		}
		return nil, nil
	}
	if method == http.MethodDelete {
		huma.Delete(api, path, handle)
		return
	}
	huma.Post(api, path, handle)
}

func answered[I, O any](do func(c caller, in *I) (O, error)) func(context.Context, *I) (*body[O], error) {
	return func(ctx context.Context, in *I) (*body[O], error) {
		out, err := do(callerOf(ctx), in)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &body[O]{out}, nil
	}
}

// eachRow translates a list of rows, and is never nil.
func eachRow[R, T any](rows []R, err error, to func(R) (T, error)) ([]T, error) {
	list := make([]T, 0, len(rows))
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		out, err := to(row)
		if err != nil {
			return nil, err
		}
		list = append(list, out)
	}
	return list, nil
}

// readable translates a list of rows whose documents were stored, and is never nil. One that cannot be read is left out
// and noted.
func readable[R, T any](c caller, rows []R, err error, to func(R) (T, error)) ([]T, error) {
	if err != nil {
		return nil, err
	}
	return ledger.Readable(c.Gym, rows, to)
}

// The core's documents, by their names in the description.
type (
	RigDoc   = rig.Doc
	PlaceDoc = rig.PlaceDoc
	DrillDoc = drill.Doc
)
