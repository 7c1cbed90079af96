// Command budgets sends a running server what once cost it too much, and prints what it costs now: processor time and
// memory of the server, and how long a coach at the bench waits meanwhile.
package main

import (
	"bytes"
	"flag"
	"fmt"
	"net/http"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"melodromos/demo"
)

// What one request may take.
const (
	mostWork   = 2 * time.Second       // and as much again for every further megabyte that is sent
	mostMemory = 200                   // MB
	mostSlower = 2.0                   // times a coach's bench when all is quiet
	leastBench = 50 * time.Millisecond // that is nothing yet
	leastAsked = 25                    // times, for a request that is over soon
	pause      = 100 * time.Millisecond
)

func main() {
	url := flag.String("url", "", "base URL of the server")
	pid := flag.Int("pid", 0, "its process")
	only := flag.String("only", "", "a part of the names of those that are sent")
	flag.Parse()
	if err := run(server{url: *url, pid: *pid}, *only); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(s server, only string) error {
	coach, err := s.signIn(demo.Email, demo.Password)
	if err != nil {
		return err
	}
	asked, err := bench(coach)
	if err != nil {
		return err
	}
	list, err := requests(s, coach)
	if err != nil {
		return err
	}
	const rest = 5 * time.Second
	idle := s.usage().work
	quiet := p95(benching(coach, asked, func() { time.Sleep(rest) }))
	share := float64(s.usage().work-idle) / float64(rest) // of a processor, for the bench itself
	fmt.Printf("a coach's bench, quiet: p95 %d ms\n\n", quiet.Milliseconds())
	fmt.Println("| request | sent kB | answer | answered kB | s | CPU s | MB | bench p95 ms |")
	fmt.Println("|---|---|---|---|---|---|---|---|")
	over := 0
	for _, r := range list {
		if !strings.Contains(r.name, only) {
			continue
		}
		if err := s.settle(); err != nil {
			return err
		}
		before := s.usage()
		var took time.Duration
		var after usage
		var status, length int
		waits := benching(coach, asked, func() {
			began := time.Now()
			status, length, err = r.send()
			took, after = time.Since(began), s.usage()
		})
		if err != nil { // as where the server gives up in the middle of an answer
			fmt.Fprintf(os.Stderr, "%s: %v\n", r.name, err)
			status = http.StatusInternalServerError
		}
		work := after.work - before.work
		memory := max(0, after.peak-before.resident)
		work -= time.Duration(float64(took) * share)
		slow := p95(waits)
		mark := ""
		slower := max(leastBench, time.Duration(mostSlower*float64(quiet)))
		if work > mostWork*time.Duration(max(1, r.sent>>20)) || memory > mostMemory || slow > slower ||
			status >= 500 {
			mark, over = " **", over+1
		}
		fmt.Printf("| %s | %d | %d | %d | %.2f | %.2f | %d | %d |%s\n", r.name, r.sent/1024, status, length/1024,
			took.Seconds(), max(0, work.Seconds()), memory, slow.Milliseconds(), mark)
	}
	if over > 0 {
		return fmt.Errorf("%d take too much", over)
	}
	return nil
}

// usage holds the memory and time that the server has used.
type usage struct {
	work           time.Duration
	resident, peak int // MB
}

type server struct {
	url string
	pid int
}

// settle waits until little goes on, and forgets the peak of memory.
func (s *server) settle() error {
	for range 50 {
		before := s.usage().work
		time.Sleep(200 * time.Millisecond)
		if s.usage().work-before < 20*time.Millisecond {
			break
		}
	}
	return os.WriteFile(fmt.Sprintf("/proc/%d/clear_refs", s.pid), []byte("5"), 0) // proc(5): resets VmHWM
}

func (s *server) usage() usage {
	var u usage
	stat, _ := os.ReadFile(fmt.Sprintf("/proc/%d/stat", s.pid))
	if fields := strings.Fields(string(stat[bytes.LastIndexByte(stat, ')')+1:])); len(fields) > 13 {
		user, _ := strconv.Atoi(fields[11])
		system, _ := strconv.Atoi(fields[12])
		u.work = time.Duration(user+system) * 10 * time.Millisecond // ticks of a hundredth
	}
	status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.pid))
	for line := range strings.Lines(string(status)) {
		fields := strings.Fields(line)
		if len(fields) < 2 {
			continue
		}
		kB, _ := strconv.Atoi(fields[1])
		switch fields[0] {
		case "VmRSS:":
			u.resident = kB / 1024
		case "VmHWM:":
			u.peak = kB / 1024
		}
	}
	return u
}

// benching asks for the bench several times a second while something goes on, and tells how long each answer took.
func benching(c client, question string, while func()) []time.Duration {
	var over atomic.Bool
	done := make(chan []time.Duration)
	go func() {
		var waits []time.Duration
		for !over.Load() || len(waits) < leastAsked {
			began := time.Now()
			_, _, _ = c.send(http.MethodPost, "/api/bench", []byte(question))
			waits = append(waits, time.Since(began))
			time.Sleep(pause)
		}
		done <- waits
	}()
	while()
	over.Store(true)
	return <-done
}

func p95(waits []time.Duration) time.Duration {
	slices.Sort(waits)
	return waits[len(waits)*95/100]
}
