package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
)

// client is a browser, signed in or not.
type client struct {
	url  string
	http *http.Client
}

func (s *server) stranger() client {
	jar, _ := cookiejar.New(nil) // fails with options only
	return client{s.url, &http.Client{Jar: jar}}
}

func (s *server) signIn(email, password string) (client, error) {
	c := s.stranger()
	body, err := json.Marshal(map[string]string{"email": email, "password": password})
	if err != nil {
		return c, err
	}
	status, _, err := c.send(http.MethodPost, "/api/sign-in", body)
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("sign in: %d", status)
	}
	return c, err
}

// send sends a body, and returns the status and the length of the answer.
func (c client) send(method, path string, body []byte) (status, length int, err error) {
	res, err := c.do(method, path, bytes.NewReader(body))
	if err != nil {
		return 0, 0, err
	}
	defer func() { _ = res.Body.Close() }()
	n, err := io.Copy(io.Discard, res.Body)
	return res.StatusCode, int(n), err
}

func (c client) do(method, path string, body io.Reader) (*http.Response, error) {
	req, err := http.NewRequest(method, c.url+path, body)
	if err != nil {
		return nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	return c.http.Do(req)
}

// ask sends a question that has to be answered, and reads the answer.
func (c client) ask(method, path string, body, into any) error {
	text, err := json.Marshal(body)
	if err != nil {
		return err
	}
	res, err := c.do(method, path, bytes.NewReader(text))
	if err != nil {
		return err
	}
	defer func() { _ = res.Body.Close() }()
	out, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	if res.StatusCode/100 != 2 {
		return fmt.Errorf("%s %s: %d %.200s", method, path, res.StatusCode, out)
	}
	if into == nil || len(out) == 0 {
		return nil
	}
	return json.Unmarshal(out, into)
}
