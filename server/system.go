package server

import (
	"context"
	"io/fs"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
)

func seconds(d time.Duration) string { return strconv.Itoa(int(math.Ceil(d.Seconds()))) }

// Status says that the server, or the server with its database, answers.
type Status struct {
	Status string `json:"status"`
}

func (s *Server) registerHealth() {
	ok := &struct{ Body Status }{Status{"ok"}}
	huma.Get(s.api, "/healthz", func(context.Context, *struct{}) (*struct{ Body Status }, error) { return ok, nil })
	huma.Get(s.api, "/readyz", func(ctx context.Context, _ *struct{}) (*struct{ Body Status }, error) {
		ctx, cancel := context.WithTimeout(ctx, 2*time.Second)
		defer cancel()
		if err := s.store.Ready(ctx); err != nil {
			return nil, huma.Error503ServiceUnavailable("The database does not answer.")
		}
		return ok, nil
	})
}

// registerPage serves the built interface: hashed files for good, the page itself anew each time.
func (s *Server) registerPage(engine *gin.Engine) {
	files := http.FileServerFS(s.Interface)
	engine.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			problem(c.Writer, http.StatusNotFound, "There is no such address.")
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			problem(c.Writer, http.StatusMethodNotAllowed, "Only reading is possible here.")
			return
		}
		if path == "" || path == "index.html" {
			c.Header("Cache-Control", "no-cache")
			page := "index.html"
			if _, err := fs.Stat(s.Interface, page); err != nil {
				page = "placeholder.html"
			}
			c.Status(http.StatusOK)
			http.ServeFileFS(c.Writer, c.Request, onePage{s.Interface, page}, "page.html")
			return
		}
		if path == "favicon.ico" { // a browser asks for it beside whatever is no page of ours
			c.Redirect(http.StatusMovedPermanently, "/mark.svg")
			return
		}
		if _, err := fs.Stat(s.Interface, path); err != nil {
			problem(c.Writer, http.StatusNotFound, "There is no such address.")
			return
		}
		if strings.HasPrefix(path, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		c.Status(http.StatusOK)
		files.ServeHTTP(c.Writer, c.Request)
	})
}

// onePage serves one file under another name: the file server redirects "index.html" to "/", which is where we are.
type onePage struct {
	fs.FS
	page string
}

func (p onePage) Open(string) (fs.File, error) { return p.FS.Open(p.page) }
