package ledger_test

import (
	"database/sql"
	"regexp"
	"slices"
	"testing"

	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/store"
	"melodromos/store/storetest"
)

// A column that holds one of a few words holds just those that Go knows, and no check in the database lists words that
// stand in no list here.
func TestWordsOfTheDatabase(t *testing.T) {
	url := storetest.URL(t)
	storetest.At(t, url)
	want := map[string][]string{
		"gyms.units":          texts(words.Units("").Values()),
		"gyms.punch_names":    texts(combo.PunchNames("").Values()),
		"gyms.slip_names":     texts(combo.SlipNames("").Values()),
		"trainees.stance":     texts(combo.Stance("").Values()),
		"trainees.band":       texts(trainee.Band("").Values()),
		"trainees.age_band":   texts(trainee.AgeBand("").Values()),
		"trainees.dominant":   texts(combo.Side("").Values(), ""),
		"trainees.weak":       texts([]combo.Hand{combo.Lead, combo.Rear}, ""),
		"trainees.sport":      texts([]trainee.Sport{trainee.Boxing, trainee.Kicking}),
		"trainees.school":     texts(ladder.School("").Values(), ""),
		"evidence.origin":     texts([]trainee.Origin{trainee.Stated, trainee.Tested, trainee.Rounds}),
		"cautions.kind":       texts(caution.Type("").Values()),
		"decisions.choice":    texts(ladder.Choice("").Values()),
		"calibrations.method": texts(bench.Method("").Values()),
		"runs.state":          texts(run.State("").Values()),
		"hours.state":         texts(run.State("").Values()),
		"runs.plays":          texts(drill.Playing("").Values()),
		"runs.source":         texts(drill.Recorder("").Values()),
		"runs.ending":         texts(judge.Ended("").Values(), ""),
		"hours.ending":        texts(judge.Ended("").Values(), ""),
		"hits.hand":           texts([]combo.Hand{combo.Lead, combo.Rear}),
		"ratings.word":        texts(run.Rating("").Values(), ""),
		"corrections.verdict": texts(judge.Verdict("").Values(), ""),
		"outcomes.conclusion": texts(judge.Conclusion("").Values(), ""),
		"corrections.kind":    texts(store.CorrectionKind("").Values()),
	}
	db, err := sql.Open("pgx", url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close() }()
	rows, err := db.Query(`SELECT conrelid::regclass || '.' || a.attname, pg_get_constraintdef(c.oid)
		FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = conrelid AND a.attnum = ANY (conkey)
		WHERE contype = 'c' AND cardinality(conkey) = 1 AND pg_get_constraintdef(c.oid) ~ '= ANY \(ARRAY\['''`)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = rows.Close() }()
	value := regexp.MustCompile(`'([^']*)'::text`)
	seen := map[string]bool{}
	for rows.Next() {
		var column, check string
		if err := rows.Scan(&column, &check); err != nil {
			t.Fatal(err)
		}
		seen[column] = true
		var got []string
		for _, m := range value.FindAllStringSubmatch(check, -1) {
			got = append(got, m[1])
		}
		slices.Sort(got)
		if !slices.Equal(got, want[column]) {
			t.Errorf("%s holds %q, Go knows %q", column, got, want[column])
		}
	}
	if err := rows.Err(); err != nil {
		t.Fatal(err)
	}
	for column := range want {
		if !seen[column] {
			t.Errorf("%s has no check", column)
		}
	}
}

func texts[T ~string](list []T, more ...string) []string {
	for _, v := range list {
		if !slices.Contains(more, string(v)) {
			more = append(more, string(v))
		}
	}
	slices.Sort(more)
	return more
}
