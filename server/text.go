package server

import (
	"encoding/json"
	"fmt"
	"strings"
)

// readText reads JSON and refuses what no text may hold: PostgreSQL keeps every character but the one numbered 0.
func readText(data []byte, into any) error {
	if err := json.Unmarshal(data, into); err != nil {
		return err
	}
	if whole, ok := into.(*any); ok { // as it is first read, to be checked
		return plain("body", *whole)
	}
	return nil
}

func plain(where string, v any) error {
	switch v := v.(type) {
	case string:
		if strings.ContainsRune(v, 0) {
			return fmt.Errorf("%s: a text may not hold the character numbered 0", where)
		}
	case []any:
		for i, item := range v {
			if err := plain(fmt.Sprintf("%s[%d]", where, i), item); err != nil {
				return err
			}
		}
	case map[string]any:
		for key, item := range v {
			if err := plain(where+"."+key, item); err != nil {
				return err
			}
		}
	}
	return nil
}
