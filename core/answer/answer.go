// Package answer helps to write answers that are read elsewhere: as JSON, null stands for what is not known and [] for
// what is empty.
package answer

import "math"

// List is a list that is empty rather than nil.
func List[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// Known is a figure, or nil where it is not a number or infinite.
func Known(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}

// Map translates a list, and is never nil.
func Map[T, U any](list []T, to func(T) U) []U {
	out := make([]U, len(list))
	for i, v := range list {
		out[i] = to(v)
	}
	return out
}
