package web

import (
	"errors"
	"expvar"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"runtime"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/hook"
	"tornister/internal/release"
	"tornister/planner"
	"tornister/store"
)

// Options say how the interface is served. The zero value is for one person at this machine: only loopback names are
// answered to and nobody is asked for a password.
type Options struct {
	Hosts    []string // other names and addresses that it is asked for under
	Password []byte   // bcrypt hash of the password; nil asks nobody
	Open     bool     // anybody on the network may come in: every page says so
	Secure   bool     // served over TLS
	Log      *slog.Logger
	Planner  planner.Options
	Scale    hook.Service // a hanging scale; none without an address
	CardsAt  string       // where links to load cards are served, as an address to open; "" when they are not
}

// answersTo reports whether the interface is served under the host of a request. A page of another site that has its
// name point to this machine is refused by it (DNS rebinding).
func (o *Options) answersTo(hostport string) bool {
	host := hostport
	if h, _, err := net.SplitHostPort(hostport); err == nil {
		host = h
	}
	host = strings.ToLower(strings.TrimSuffix(strings.Trim(host, "[]"), "."))
	if ip, err := netip.ParseAddr(host); err == nil && ip.IsLoopback() {
		return true
	}
	return host == "localhost" || slices.Contains(o.Hosts, host)
}

// onlyOurNames refuses requests for another host than this.
func (s *Server) onlyOurNames(c *gin.Context) {
	if !s.options.answersTo(c.Request.Host) {
		c.String(
			http.StatusMisdirectedRequest,
			"This is Tornister, but not under the name %q. Open the address that it printed when it was started, or start it with --host and this name.\n",
			clip(c.Request.Host, 80),
		)
		c.Abort()
		return
	}
	c.Next()
}

// onlySeen takes out of what a form sends the characters that are not seen, which come along when something is copied
// from a page or a document: a name is what it looks like. Line breaks and tabs stay.
func onlySeen(c *gin.Context) {
	if c.Request.Method == http.MethodPost && c.ContentType() == "application/x-www-form-urlencoded" &&
		c.Request.ParseForm() == nil {
		for _, values := range c.Request.PostForm {
			for i, v := range values {
				values[i] = strings.Map(func(r rune) rune {
					if bundle.HiddenInText(r) {
						return -1
					}
					return r
				}, strings.ToValidUTF8(v, ""))
			}
		}
	}
	c.Next()
}

// first lets pages go before the searches in the background; what only watches a search does not count.
func (s *Server) first(c *gin.Context) {
	if !strings.HasSuffix(c.Request.URL.Path, "/progress") && !strings.HasSuffix(c.Request.URL.Path, "/stop") {
		defer s.planner.Wait()()
	}
	c.Next()
}

// recorded logs what was asked and how it went. What went wrong is logged with its cause, which the page does not
// tell in full.
func (s *Server) recorded(c *gin.Context) {
	start := time.Now()
	c.Next()
	status := c.Writer.Status()
	attributes := []any{
		"method",
		c.Request.Method,
		"path",
		c.Request.URL.Path,
		"status",
		status,
		"ms",
		time.Since(start).Milliseconds(),
		"bytes",
		max(0, c.Writer.Size()),
	}
	for _, e := range c.Errors {
		attributes = append(attributes, "error", e.Error())
	}
	if status >= http.StatusInternalServerError || len(c.Errors) > 0 {
		s.log.Error("request", attributes...)
		return
	}
	s.log.Info("request", attributes...)
}

// recovered answers a request that panicked.
func (s *Server) recovered(c *gin.Context, cause any) {
	s.log.Error("panic", "path", c.Request.URL.Path, "cause", fmt.Sprint(cause), "stack", string(debug.Stack()))
	s.fail(c, http.StatusInternalServerError, errors.New("something went wrong here; nothing was changed"))
}

// health tells a watchman whether the program is well, without a word about what is in it.
func (s *Server) health(c *gin.Context) {
	status, word := http.StatusOK, "ok"
	if err := s.store.Alive(c.Request.Context()); err != nil {
		status, word = http.StatusServiceUnavailable, "the database does not answer"
		if errors.Is(err, store.ErrReplaced) {
			word = "the database file was replaced"
		}
		_ = c.Error(err)
	}
	c.JSON(status, gin.H{"status": word, "version": release.Version, "goroutines": runtime.NumGoroutine()})
}

// figures shows what the program is doing, to the machine it runs on only: searches, people who wait, plans kept,
// memory.
func (s *Server) figures(c *gin.Context) {
	host, _, err := net.SplitHostPort(c.Request.RemoteAddr)
	if ip, wrong := netip.ParseAddr(host); err != nil || wrong != nil || !ip.IsLoopback() {
		s.missing(c)
		return
	}
	doing := s.planner.Doing()
	var figures expvar.Map
	for name, n := range map[string]int{"searches": doing.Searches, "waiting": doing.Waiting, "plans": doing.Kept,
		"goroutines": runtime.NumGoroutine()} {
		var v expvar.Int
		v.Set(int64(n))
		figures.Set(name, &v)
	}
	c.Data(http.StatusOK, "application/json; charset=utf-8",
		fmt.Appendf(nil, `{"tornister": %s, "memstats": %s}`, figures.String(), expvar.Get("memstats").String()))
}

// alarm is what every page has to say above everything else.
func (s *Server) alarm() string {
	switch err := s.store.Trouble(); {
	case err != nil:
		return sentence(err.Error())
	case s.store.ReadOnly():
		return "The database can only be read: nothing that is changed here is kept."
	case s.options.Open:
		return "Open to everybody on this network: no password is asked for, and whoever comes here can read and change everything."
	}
	return ""
}
