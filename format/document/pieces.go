package document

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"melodromos/core/input"
)

// A whole gym may be long. It is read and written entry by entry of its lists, so that no more of its text is in memory
// than one of them.

// mostPiece limits (bytes) one entry of a list, and all of a document that is in none.
const mostPiece = 4 << 20

// part is one of the lists of a gym.
type part struct {
	field string
	most  int
	clear func()
	read  func(*input.Object) error // one more entry
	len   func() int
	entry func(int) any
}

func partOf[T any](field string, most int, list *[]T, read func(*input.Object) (T, error)) part {
	return part{field, most,
		func() { *list = []T{} },
		func(o *input.Object) error {
			v, err := read(o)
			*list = append(*list, v)
			return err
		},
		func() int { return len(*list) },
		func(i int) any { return (*list)[i] }}
}

// parts are the lists of a gym, in the order in which they are written.
func (g *Gym) parts() []part {
	return []part{partOf("bags", mostBags, &g.Bags, readBag), partOf("people", mostPeople, &g.People, readPerson),
		partOf("drills", mostDrills, &g.Drills, readDrill), partOf("given", mostGiven, &g.Given, readGiven),
		partOf("sessions", mostSessions, &g.Sessions, readOwnSession), partOf("dates", mostDates, &g.Dates, readDate)}
}

// pieces holds a document in parts: the lists of a gym as they were read, all else as it stands there.
type pieces struct {
	top   map[string]json.RawMessage
	gym   map[string]json.RawMessage // nil where there is none
	lists Gym

	d    *json.Decoder
	in   *input.Metered
	left int // bytes that may be kept as they stand
}

func gather(in io.Reader) (*pieces, error) {
	p := &pieces{top: map[string]json.RawMessage{}, in: &input.Metered{In: in}, left: mostPiece}
	p.d = json.NewDecoder(p.in)
	for _, list := range p.lists.parts() {
		list.clear()
	}
	err := p.object("", p.top, func(field string) (bool, error) {
		if field != "gym" {
			return false, nil
		}
		p.gym = map[string]json.RawMessage{}
		return true, p.object("gym", p.gym, func(field string) (bool, error) {
			for _, list := range p.lists.parts() {
				if list.field == field {
					return true, p.list(list)
				}
			}
			return false, nil
		})
	})
	if err != nil {
		return nil, err
	}
	if _, err := p.token(); !errors.Is(err, io.EOF) {
		return nil, input.Refuse("", "expected one JSON object and nothing after it")
	}
	return p, nil
}

// object goes through an object. What take leaves is kept as it stands.
func (p *pieces) object(path string, kept map[string]json.RawMessage, take func(field string) (bool, error)) error {
	opening, err := p.token()
	if err != nil {
		return p.broken(path, err)
	}
	if opening != json.Delim('{') {
		return input.Refuse(path, "expected one JSON object")
	}
	seen := map[string]bool{}
	for p.d.More() {
		token, err := p.token()
		if err != nil {
			return p.broken(path, err)
		}
		field := token.(string) // what begins a member of an object
		at := under(path, field)
		if seen[field] {
			return input.Refuse(at, "expected it once, and it stands there twice")
		}
		seen[field] = true
		taken, err := take(field)
		if err != nil {
			return err
		}
		if taken {
			continue
		}
		piece, err := p.piece(at)
		if err != nil {
			return err
		}
		if p.left -= len(piece); p.left < 0 {
			return p.broken(at, input.ErrLong)
		}
		kept[field] = piece
		if at == "version" {
			if err := newer(piece); err != nil {
				return err
			}
		}
	}
	_, err = p.token()
	return p.broken(path, err)
}

// list reads the entries of a list; none where there is null.
func (p *pieces) list(list part) error {
	path := under("gym", list.field)
	opening, err := p.token()
	switch {
	case err != nil:
		return p.broken(path, err)
	case opening == nil:
		return nil
	case opening != json.Delim('['):
		return input.Refuse(path, "expected a list of objects")
	}
	for i := 0; p.d.More(); i++ {
		if i == list.most {
			return input.Refuse(path, "expected at most %d entries", list.most)
		}
		at := fmt.Sprintf("%s[%d]", path, i)
		piece, err := p.piece(at)
		if err != nil {
			return err
		}
		if err := list.read(input.ParseAt(at, piece)); err != nil {
			return err
		}
	}
	_, err = p.token()
	return p.broken(path, err)
}

func under(path, field string) string {
	if path == "" {
		return field
	}
	return path + "." + field
}

func (p *pieces) token() (json.Token, error) {
	p.in.Left = mostPiece
	return p.d.Token()
}

func (p *pieces) piece(path string) (json.RawMessage, error) {
	p.in.Left = mostPiece
	var piece json.RawMessage
	err := p.d.Decode(&piece)
	return piece, p.broken(path, err)
}

// broken refuses what cannot be read. What hinders reading itself passes unchanged.
func (p *pieces) broken(path string, err error) error {
	var syntax *json.SyntaxError
	switch {
	case errors.Is(err, input.ErrLong):
		return input.Refuse(path, "expected at most %d MB in one piece", mostPiece>>20)
	case errors.As(err, &syntax):
		return input.Refuse("", "expected one JSON object (%s)", syntax)
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return input.Refuse("", "expected one JSON object, and it ends before its time")
	}
	return err
}

// whole joins what was read to one text again, without the lists.
func (p *pieces) whole() ([]byte, error) {
	if p.gym != nil {
		gym, err := json.Marshal(p.gym)
		if err != nil {
			return nil, err
		}
		p.top["gym"] = gym
	}
	return json.Marshal(p.top)
}

// Write writes a document, indented, with a line feed at its end.
func Write(out io.Writer, f File) error {
	f.Version = Version
	lists := map[string]part{}
	if f.Gym != nil {
		for _, list := range f.Gym.parts() {
			lists[fmt.Sprintf("    %q: ", list.field)] = list
		}
		f.Gym = &Gym{Settings: f.Gym.Settings}
	}
	text, err := json.MarshalIndent(f, "", "  ")
	if err != nil {
		return err
	}
	w := bufio.NewWriter(out)
	for line := range bytes.Lines(text) {
		before, after, empty := strings.Cut(string(line), "null")
		list, there := lists[before]
		if !there || !empty {
			_, err = w.Write(line)
		} else if _, err = w.WriteString(before); err == nil {
			if err = list.write(w); err == nil {
				_, err = w.WriteString(after)
			}
		}
		if err != nil {
			return err
		}
	}
	if err := w.WriteByte('\n'); err != nil {
		return err
	}
	return w.Flush()
}

func (l part) write(w *bufio.Writer) error {
	if l.len() == 0 {
		_, err := w.WriteString("[]")
		return err
	}
	before := "[\n      "
	for i := range l.len() {
		text, err := json.MarshalIndent(l.entry(i), "      ", "  ")
		if err != nil {
			return err
		}
		if _, err := w.WriteString(before); err != nil {
			return err
		}
		if _, err := w.Write(text); err != nil {
			return err
		}
		before = ",\n      "
	}
	_, err := w.WriteString("\n    ]")
	return err
}
