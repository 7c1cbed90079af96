package e2e

import (
	"testing"

	"melodromos/browser"
	"melodromos/demo"
)

// From a step of a slider to the changed picture, in the browser: reported as ms/picture beside the time of the whole
// round trip through the test's own wire.
func BenchmarkSliderToPicture(b *testing.B) {
	p, done, err := browser.Open(b.Context(), start(b), 1280, 800)
	if err != nil {
		b.Fatal(err)
	}
	defer done()
	for _, err := range []error{p.SignIn(demo.Email, demo.Password), p.Go("/bags"), p.Press("Set up Quay bag"),
		p.See("trike at")} {
		if err != nil {
			b.Fatal(err)
		}
	}
	total, n := 0.0, 0
	for b.Loop() {
		key := map[bool]string{true: "ArrowRight", false: "ArrowLeft"}[n%2 == 0]
		took, err := browser.Eval[float64](p, `new Promise((done) => {
			const picture = document.querySelector('svg[aria-labelledby]'), words = picture.querySelector('title').textContent
			const slider = [...document.querySelectorAll('button.part')].find((e) => e.ariaLabel?.endsWith(', Tempo'))
			const begin = performance.now()
			const seen = new MutationObserver(() => {
				if (picture.querySelector('title').textContent === words) return
				seen.disconnect()
				requestAnimationFrame(() => setTimeout(() => done(performance.now() - begin)))
			})
			seen.observe(picture, { subtree: true, childList: true, characterData: true, attributes: true })
			slider.focus()
			slider.dispatchEvent(new KeyboardEvent('keydown', { key: '`+key+`', bubbles: true }))
		})`)
		if err != nil {
			b.Fatal(err)
		}
		total += took
		n++
	}
	b.ReportMetric(total/float64(n), "ms/picture")
}

// From a key in the composer's line to the changed picture, for a line of 13 moves: ms/picture.
func BenchmarkKeystrokeToPicture(b *testing.B) {
	p, done, err := browser.Open(b.Context(), start(b), 1280, 800)
	if err != nil {
		b.Fatal(err)
	}
	defer done()
	const line = "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!"
	for _, err := range []error{p.SignIn(demo.Email, demo.Password), p.Go("/compose/new"), p.See("Thrown at"),
		p.Fill("What is thrown", line), p.See("5 lead, 5 rear")} {
		if err != nil {
			b.Fatal(err)
		}
	}
	total, n := 0.0, 0
	for b.Loop() {
		more := map[bool]string{true: "-1", false: ""}[n%2 == 0]
		took, err := browser.Eval[float64](p, `new Promise((done) => {
			const picture = document.querySelector('svg[aria-labelledby]'), words = picture.querySelector('title').textContent
			const field = [...document.querySelectorAll('label')].find((l) => l.innerText.startsWith('What is thrown')).control
			const begin = performance.now()
			const seen = new MutationObserver(() => {
				if (picture.querySelector('title').textContent === words) return
				seen.disconnect()
				requestAnimationFrame(() => setTimeout(() => done(performance.now() - begin)))
			})
			seen.observe(picture, { subtree: true, childList: true, characterData: true, attributes: true })
			field.value = '`+line+more+`'
			field.dispatchEvent(new InputEvent('input', { bubbles: true }))
		})`)
		if err != nil {
			b.Fatal(err)
		}
		total += took
		n++
	}
	b.ReportMetric(total/float64(n), "ms/picture")
}

// The first load stays under 100 kB of compressed script, as the browser counts it.
func TestFirstLoad(t *testing.T) {
	c := open(t, start(t), 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.See("Next on the floor"))
	script := c.number(
		`performance.getEntriesByType('resource').filter((e) => e.name.endsWith('.js')).reduce((sum, e) => sum + e.encodedBodySize, 0)`)
	whole := c.number(
		`performance.getEntriesByType('resource').filter((e) => e.name.endsWith('.js')).reduce((sum, e) => sum + e.decodedBodySize, 0)`)
	if script < 10_000 || script > 100_000 || whole < 2*script {
		t.Errorf("the first load takes %.0f bytes of script, %.0f unpacked", script, whole)
	}
	t.Logf("%.0f bytes of compressed script", script)
}
