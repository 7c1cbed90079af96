package browser

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
)

// Papers are those that a page is printed on.
var Papers = map[string]chromedp.PaperSize{"A4": chromedp.PaperA4, "Letter": chromedp.PaperLetter}

// Printed returns the page as it is printed on A4 or on Letter, as a PDF.
func (p *Page) Printed(paper string) ([]byte, error) {
	size, known := Papers[paper]
	if !known {
		return nil, fmt.Errorf("expected A4 or Letter, not %q", paper)
	}
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.PrintToPDF(chromedp.PDFPaper(size), chromedp.PDFPrintBackground()))
}

// GiveFile gives a file to the first field on the page that takes one.
func (p *Page) GiveFile(path string) error {
	ctx, cancel := context.WithTimeout(p.ctx, 10*time.Second)
	defer cancel()
	return chromedp.Do(ctx, chromedp.SetUploadFiles(chromedp.CSS(`input[type="file"]`), []string{path}))
}

// Downloads has the browser put what it is handed into a folder.
func (p *Page) Downloads(folder string) error {
	_, err := chromedp.Call(p.ctx, browser.SetDownloadBehavior, browser.SetDownloadBehaviorParams{
		Behavior: browser.SetDownloadBehaviorBehaviorAllow, DownloadPath: folder,
		BrowserContextID: chromedp.FromContext(p.ctx).BrowserContextID})
	return err
}

// Downloaded waits for a file whose name ends so, and takes it out of the folder.
func (p *Page) Downloaded(folder, ending string) (name string, data []byte, err error) {
	for began := time.Now(); time.Since(began) < 20*time.Second; time.Sleep(50 * time.Millisecond) {
		list, err := os.ReadDir(folder)
		if err != nil {
			return "", nil, err
		}
		for _, f := range list {
			if strings.HasSuffix(f.Name(), ending) {
				path := filepath.Join(folder, f.Name())
				data, err := os.ReadFile(path)
				if err == nil && len(data) > 0 {
					return f.Name(), data, os.Remove(path)
				}
			}
		}
	}
	return "", nil, fmt.Errorf("no file that ends on %s was handed over", ending)
}

// Cookie gives the browser a cookie of the site.
func (p *Page) Cookie(name, value string) error {
	_, err := chromedp.Call(p.ctx, network.SetCookie, network.SetCookieParams{Name: name, Value: value, URL: p.base})
	return err
}
