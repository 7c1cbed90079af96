package store

import (
	"context"

	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
)

// A connection says for which gym it works, and row-level security shows it the rows of that gym and no others: a
// second lock behind the queries' own filter. everywhere is said where the gym is yet to be found, as at a sign-in, and
// by those who look after the whole house.
const everywhere = "*"

// gymSetting is the session's setting that the policies of the tables read.
const gymSetting = "melodromos.gym"

type scopeKey struct{}

// inGym is a context whose queries work for one gym.
func inGym(ctx context.Context, id string) context.Context {
	return context.WithValue(ctx, scopeKey{}, id)
}

// scoped makes a connection say for whom it works, whenever it is taken from the pool. A context that says nothing sees
// nothing.
func scoped(ctx context.Context, conn *pgx.Conn) (bool, error) {
	want, _ := ctx.Value(scopeKey{}).(string)
	said := conn.PgConn().CustomData()
	if have, ok := said[gymSetting].(string); ok && have == want {
		return true, nil
	}
	delete(said, gymSetting)
	if _, err := conn.Exec(ctx, "SELECT set_config('"+gymSetting+"', $1, false)", want); err != nil {
		return false, nil // a connection that is broken: another one is tried
	}
	said[gymSetting] = want
	return true, nil
}

// inEveryGym is the database with the rows of all gyms in sight.
func (s *Store) inEveryGym(ctx context.Context) *gorm.DB {
	return s.db.WithContext(inGym(ctx, everywhere))
}

// Locked says whether the second lock holds: it does not for a superuser, nor for a role that passes by row-level
// security.
func (s *Store) Locked(ctx context.Context) (bool, error) {
	var free bool
	err := s.inEveryGym(ctx).Raw("SELECT rolsuper OR rolbypassrls FROM pg_roles WHERE rolname = current_user").Scan(
		&free).Error
	return !free, ownError(err)
}
