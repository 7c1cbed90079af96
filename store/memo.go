package store

import (
	"container/list"
	"sync"
)

// memo keeps what was worked out of digests, by gym, person and revision, for all who ask: what was used longest ago
// goes first. What is kept is shared, and nobody may change it.
type memo struct {
	mu    sync.Mutex
	most  int // weights that are kept
	all   int
	items map[memoKey]*list.Element
	order *list.List // the newest use in front
}

type memoKey struct{ gym, person string }

type memoItem struct {
	key    memoKey
	revs   string
	value  any
	weight int
}

// mostKept limits the rounds and pieces of evidence in memory: several large gyms, at 150 bytes each.
const mostKept = 600_000

func newMemo() *memo {
	return &memo{most: mostKept, items: map[memoKey]*list.Element{}, order: list.New()}
}

// Remembered returns the value that was kept of somebody under a revision; false where there is none.
func (g *Gym) Remembered(of Revision) (any, bool) {
	g.memo.mu.Lock()
	defer g.memo.mu.Unlock()
	at := g.memo.items[memoKey{g.ID, of.TraineeID}]
	if at == nil || at.Value.(*memoItem).revs != of.Revs {
		return nil, false
	}
	g.memo.order.MoveToFront(at)
	return at.Value.(*memoItem).value, true
}

// Remember keeps something of somebody under a revision, in place of what was kept of them.
func (g *Gym) Remember(of Revision, value any, weight int) {
	m := g.memo
	m.mu.Lock()
	defer m.mu.Unlock()
	key := memoKey{g.ID, of.TraineeID}
	if at := m.items[key]; at != nil {
		m.drop(at)
	}
	m.items[key] = m.order.PushFront(&memoItem{key, of.Revs, value, weight})
	for m.all += weight; m.all > m.most && m.order.Len() > 1; {
		m.drop(m.order.Back())
	}
}

func (m *memo) drop(at *list.Element) {
	item := m.order.Remove(at).(*memoItem)
	delete(m.items, item.key)
	m.all -= item.weight
}
