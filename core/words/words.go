// Package words puts figures into a coach's words.
package words

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Units says in which system lengths are put into words.
type Units string

// The two systems.
const (
	Metric   Units = "metric"
	Imperial Units = "imperial"
)

// Values lists them.
func (Units) Values() []Units { return []Units{Metric, Imperial} }

// The international foot and inch (exact, 1959), in metres.
const (
	inch = 0.0254
	foot = 12 * inch
)

// Length puts a length (m) into words: centimetres below a metre and metres above, or inches below a yard and feet and
// inches, to the half inch, above. Tenths of a centimetre are kept where there are some.
func (u Units) Length(m float64) string {
	switch {
	case u == Imperial && math.Abs(m) >= 3*foot:
		halves := int(math.Round(math.Abs(m) / inch * 2))
		text := fmt.Sprintf("%d ft", halves/24)
		if rest := halves % 24; rest > 0 {
			text += fmt.Sprintf(" %d%s in", rest/2, []string{"", "½"}[rest%2])
		}
		if m < 0 {
			return "−" + text
		}
		return text
	case u == Imperial:
		return Trimmed(m/inch) + " in"
	case math.Abs(m) >= 1:
		return fmt.Sprintf("%.2f m", m)
	}
	return Trimmed(m*100) + " cm"
}

// Trimmed writes a figure with one decimal, and with none where that is 0.
func Trimmed(v float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", v), ".0") }

// Number writes a small whole number as a word.
func Number(n int) string {
	list := []string{"none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"}
	if n >= 0 && n < len(list) {
		return list[n]
	}
	return strconv.Itoa(n)
}

// Ordinal writes the place in a row, from 1, as a word up to the ninth.
func Ordinal(n int) string {
	list := []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth"}
	if n >= 1 && n <= len(list) {
		return list[n-1]
	}
	end := "th"
	if n%100/10 != 1 {
		switch n % 10 {
		case 1:
			end = "st"
		case 2:
			end = "nd"
		case 3:
			end = "rd"
		}
	}
	return strconv.Itoa(n) + end
}

// Count writes a number of things: "1 strike", "3 strikes".
func Count(n int, word string) string { return CountOf(n, word, word+"s") }

// CountOf writes a number of things whose plural is irregular: "1 pass", "3 passes".
func CountOf(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return strconv.Itoa(n) + " " + many
}

// List puts words into a sentence: one, two and three.
func List(list []string) string {
	if n := len(list); n > 1 {
		return strings.Join(list[:n-1], ", ") + " and " + list[n-1]
	}
	return strings.Join(list, "")
}

// Joined returns the text of a sentence that was put together of parts.
func Joined[P fmt.Stringer](parts []P) string {
	var text strings.Builder
	for _, p := range parts {
		text.WriteString(p.String())
	}
	return strings.TrimSpace(text.String())
}

// Ways puts parts of a sentence in a row behind a colon: one, another or a third. plain makes a part of the words
// between them. Of no parts it makes none.
func Ways[P any](parts []P, plain func(text string) P) []P {
	var row []P
	for i, p := range parts {
		switch {
		case i == 0:
			row = append(row, plain(": "))
		case i == len(parts)-1:
			row = append(row, plain(" or "))
		default:
			row = append(row, plain(", "))
		}
		row = append(row, p)
	}
	return row
}

// Upper begins a text with a capital, Lower with a small letter.
func Upper(text string) string { return first(text, strings.ToUpper) }

// Lower begins a text with a small letter.
func Lower(text string) string { return first(text, strings.ToLower) }

func first(text string, change func(string) string) string {
	_, size := utf8.DecodeRuneInString(text)
	return change(text[:size]) + text[size:]
}

// Short keeps a text within so many characters.
func Short(text string, most int) string {
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return text
}
