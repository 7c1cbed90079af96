package server

import (
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/coder/websocket"
	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"melodromos/store"
)

// serveLive streams a run's hits and states to a screen of the same gym.
func (s *Server) serveLive(c *gin.Context) {
	who, err := s.caller(c.Request.Context())
	if errors.Is(err, errNobody) {
		problem(c.Writer, http.StatusUnauthorized, "Sign in first.")
		return
	}
	var run store.Run
	if err == nil {
		run, err = who.Gym.Run(c.Param("id"))
	}
	if err != nil {
		var status huma.StatusError
		told := refused(c.Request.Context(), "", err)
		errors.As(told, &status)
		for name, values := range headersOf(told) {
			c.Header(name, values[0])
		}
		problem(c.Writer, status.GetStatus(), status.Error())
		return
	}
	conn, err := websocket.Accept(c.Writer, c.Request, nil)
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = conn.CloseNow() }()
	ctx := conn.CloseRead(c.Request.Context())
	messages, leave := s.live.Watch(run.ID)
	defer leave()
	look := time.NewTicker(s.pulse)
	defer look.Stop()
	token := s.sessions.Token(c.Request.Context())
	for {
		select {
		case <-ctx.Done():
			return
		case <-look.C:
			if s.ended(token) {
				_ = conn.Close(websocket.StatusPolicyViolation, "signed out")
				return
			}
		case m, open := <-messages:
			if !open {
				_ = conn.Close(websocket.StatusGoingAway, "the server is shutting down")
				return
			}
			text, _ := json.Marshal(m) // strings and numbers only
			if err := conn.Write(ctx, websocket.MessageText, text); err != nil {
				return
			}
		}
	}
}

// ended says whether nobody is signed in any more with a session. While the database does not answer, it goes on.
func (s *Server) ended(token string) bool {
	again, err := s.sessions.Load(s.running, token) // not the request's context, which still has the session as it was
	if err == nil {
		_, err = s.caller(again)
	}
	return errors.Is(err, errNobody)
}
