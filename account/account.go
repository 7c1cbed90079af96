// Package account holds what may be set of a coach's account and of a gym, and keeps passwords as hashes.
package account

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"melodromos/core/input"
	"melodromos/core/timetable"
)

// Limits of what is set, in characters. Whoever signs in is held to the same.
const (
	LeastPassword = 10
	MostPassword  = 200
	MostEmail     = 254 // RFC 5321, 4.5.3.1.3
)

// Password refuses one that is too short or too long.
func Password(password string) error {
	if n := utf8.RuneCountInString(password); n < LeastPassword || n > MostPassword {
		return input.Refuse("password", "expected %d to %d characters, not %d", LeastPassword, MostPassword, n)
	}
	return nil
}

// Email refuses what cannot be an address.
func Email(email string) error {
	switch at := strings.LastIndex(email, "@"); {
	case utf8.RuneCountInString(email) > MostEmail:
		return input.Refuse("email", "expected at most %d characters", MostEmail)
	case at < 1 || at == len(email)-1 || strings.ContainsFunc(email,
		func(r rune) bool { return unicode.IsSpace(r) || unicode.IsControl(r) }):
		return input.Refuse("email", "expected an address such as you@gym.example")
	}
	return nil
}

// Zone refuses a time zone that this machine does not know.
func Zone(zone string) error {
	_, err := timetable.Zone("zone", zone)
	return err
}

// Units refuses other units than metric and imperial.
func Units(units string) error {
	if units != "metric" && units != "imperial" {
		return input.Refuse("units", "expected metric or imperial, not %q", units)
	}
	return nil
}
