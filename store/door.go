package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"

	"gorm.io/gorm"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/session"
	"melodromos/core/timetable"
)

// readers read each document that is kept, by table and column, as whoever opens it later does. Nothing is written that
// its reader refuses.
var readers = map[string]func(doc []byte) error{
	"rigs.doc":              reads(func(doc []byte) (rig.Rig, error) { return rig.Read(input.Parse(doc)) }),
	"rigs.place":            reads(func(doc []byte) (rig.Place, error) { return rig.ReadPlace(input.Parse(doc)) }),
	"drills.doc":            reads(readPlan),
	"session_plans.doc":     reads(session.Read),
	"hours.plan":            reads(class.Read),
	"hours.deeds":           reads(session.ReadDeeds),
	"dates.skipped":         reads(timetable.ReadSkipped),
	"runs.rig_doc":          reads(func(doc []byte) (rig.Rig, error) { return rig.Read(input.Parse(doc)) }),
	"runs.drill_doc":        reads(readPlan),
	"timelines.doc":         reads(readTimeline),
	"calibrations.evidence": reads(readObject),
	"corrections.was":       reads(readObject),
}

func readPlan(doc []byte) (drill.Plan, error) { return drill.ReadPlan(input.Parse(doc)) }

func readTimeline(doc []byte) (drill.Timeline, error) {
	var t drill.Timeline
	if err := json.Unmarshal(doc, &t); err != nil {
		return t, input.Refuse("", "expected a timeline (%s)", err)
	}
	return t, t.Check()
}

// readObject takes what is kept to be looked at by people: any object.
func readObject(doc []byte) (map[string]json.RawMessage, error) {
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(doc, &fields); err != nil || fields == nil {
		return nil, input.Refuse("", "expected an object")
	}
	return fields, nil
}

func reads[T any](read func([]byte) (T, error)) func([]byte) error {
	return func(doc []byte) error {
		_, err := read(doc)
		return err
	}
}

// watchDoor has every document that is created or changed through the mapper read before it is written.
func watchDoor(db *gorm.DB) error {
	return errors.Join(
		db.Callback().Create().Before("gorm:create").Register("melodromos:read", readFirst),
		db.Callback().Update().Before("gorm:update").Register("melodromos:read", readFirst),
	)
}

func readFirst(tx *gorm.DB) {
	st := tx.Statement
	if tx.Error != nil || st.Schema == nil {
		return
	}
	if columns, ok := st.Dest.(map[string]any); ok {
		for name, value := range columns {
			if read := readers[st.Schema.Table+"."+name]; read != nil {
				_ = tx.AddError(readAs(read, st.Schema.Table+"."+name, value))
			}
		}
		return
	}
	rows := reflect.Indirect(reflect.ValueOf(st.Dest))
	switch {
	case rows.Kind() == reflect.Slice:
		for i := range rows.Len() {
			readRow(tx, reflect.Indirect(rows.Index(i)))
		}
	case rows.Kind() == reflect.Struct:
		readRow(tx, rows)
	}
}

// readRow reads the documents of a row; one that is left empty is not written, or is the column's own default.
func readRow(tx *gorm.DB, row reflect.Value) {
	st := tx.Statement
	if row.Type() != st.Schema.ModelType {
		return
	}
	if run, ok := row.Interface().(Run); ok && run.BroughtAt != nil {
		return // it came in as a table, without documents
	}
	for _, field := range st.Schema.Fields {
		read := readers[st.Schema.Table+"."+field.DBName]
		if read == nil {
			continue
		}
		if value, empty := field.ValueOf(st.Context, row); !empty {
			_ = tx.AddError(readAs(read, st.Schema.Table+"."+field.DBName, value))
		}
	}
}

func readAs(read func([]byte) error, column string, value any) error {
	var doc []byte
	switch v := value.(type) {
	case Doc:
		doc = v
	case []byte:
		doc = v
	case string:
		doc = []byte(v)
	default:
		return fmt.Errorf("%s: expected a document, not %T", column, value)
	}
	if err := read(doc); err != nil {
		return fmt.Errorf("%s: %w", column, err)
	}
	return nil
}
