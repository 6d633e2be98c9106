package web

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"net"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/crypto/bcrypt"
	"golang.org/x/time/rate"
)

// How long somebody stays in, how many may be in, and how fast passwords can be guessed: a few at once, then one
// every ten seconds from one address, and two a second in all.
const (
	idleFor     = 12 * time.Hour
	longest     = 7 * 24 * time.Hour
	mostIn      = 1000
	guessBurst  = 5
	guessEvery  = 10 * time.Second
	allGuesses  = 2
	sessionName = "tornister-session"
)

// door lets in who knows the password. Sessions live in memory: whoever came in comes in anew after a restart.
type door struct {
	hash     []byte
	secure   bool
	now      func() time.Time
	all      *rate.Limiter
	mu       sync.Mutex
	sessions *lru.Cache[[sha256.Size]byte, *session] // by the hash of what the browser holds
	guesses  *lru.Cache[string, *rate.Limiter]       // by address
}

type session struct{ came, seen time.Time }

func newDoor(o *Options, now func() time.Time) *door {
	d := &door{hash: o.Password, secure: o.Secure, now: now, all: rate.NewLimiter(allGuesses, 2*guessBurst)}
	d.sessions, _ = lru.New[[sha256.Size]byte, *session](mostIn) // fails only for sizes below one
	d.guesses, _ = lru.New[string, *rate.Limiter](mostIn)
	return d
}

// locked reports whether a password is asked for at all.
func (d *door) locked() bool { return len(d.hash) > 0 }

// in reports whether a request comes from somebody who gave the password, and notes that it came.
func (d *door) in(r *http.Request) bool {
	cookie, err := r.Cookie(sessionName)
	if err != nil {
		return false
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	key := sha256.Sum256([]byte(cookie.Value))
	known, ok := d.sessions.Get(key)
	if !ok {
		return false
	}
	now := d.now()
	if now.Sub(known.seen) > idleFor || now.Sub(known.came) > longest || now.Before(known.came) {
		d.sessions.Remove(key)
		return false
	}
	known.seen = now
	return true
}

// mayGuess takes a guess from an address; false when there were too many.
func (d *door) mayGuess(address string) bool {
	if host, _, err := net.SplitHostPort(address); err == nil {
		address = host
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	own, ok := d.guesses.Get(address)
	if !ok {
		own = rate.NewLimiter(rate.Every(guessEvery), guessBurst)
		d.guesses.Add(address, own)
	}
	now := d.now()
	return own.AllowN(now, 1) && d.all.AllowN(now, 1)
}

// open begins a session.
func (d *door) open(c *gin.Context) {
	token := make([]byte, 32)
	_, _ = rand.Read(token) // never fails (crypto/rand)
	value := base64.RawURLEncoding.EncodeToString(token)
	now := d.now()
	d.mu.Lock()
	d.sessions.Add(sha256.Sum256([]byte(value)), &session{now, now})
	d.mu.Unlock()
	d.hand(c, value, int(longest.Seconds()))
}

// shut ends a session.
func (d *door) shut(c *gin.Context) {
	if cookie, err := c.Request.Cookie(sessionName); err == nil {
		d.mu.Lock()
		d.sessions.Remove(sha256.Sum256([]byte(cookie.Value)))
		d.mu.Unlock()
	}
	d.hand(c, "", -1)
}

// hand gives the browser what it comes back with, for so many seconds; below zero takes it away.
func (d *door) hand(c *gin.Context, value string, seconds int) {
	http.SetCookie(c.Writer, &http.Cookie{Name: sessionName, Value: value, Path: "/", MaxAge: seconds,
		HttpOnly: true, Secure: d.secure, SameSite: http.SameSiteLaxMode})
}

// signInView is the page that asks for the password.
type signInView struct{ Return string }

// knock keeps everybody out who has not given the password. What a page is made with, and the page that asks, are
// open.
func (s *Server) knock(c *gin.Context) {
	path := c.Request.URL.Path
	if !s.door.locked() || path == "/sign-in" || path == "/healthz" || strings.HasPrefix(path, "/static/") ||
		s.door.in(c.Request) {
		c.Next()
		return
	}
	c.Abort()
	if c.Request.Method == http.MethodGet && c.GetHeader("HX-Request") == "" {
		c.Redirect(http.StatusSeeOther, "/sign-in?return="+url.QueryEscape(c.Request.URL.RequestURI()))
		return
	}
	s.showSignIn(
		c,
		http.StatusUnauthorized,
		"/",
		&notice{Kind: "wrong", Text: "You were out for a while. Give the password again; what you sent was not taken."},
	)
}

func (s *Server) signInPage(c *gin.Context) {
	s.showSignIn(c, http.StatusOK, localPath(c.Query("return"), "/"), nil)
}

func (s *Server) showSignIn(c *gin.Context, status int, back string, told *notice) {
	s.render(
		c,
		status,
		page{
			Title:    "Sign in",
			Name:     "signin",
			Headline: "Whose kit is it?",
			Detail:   "This Tornister asks for a password.",
			Notice:   told,
			Here:     back,
			Body:     &signInView{back},
		},
	)
}

// signIn takes the password.
func (s *Server) signIn(c *gin.Context) {
	back := localPath(c.PostForm("return"), "/")
	if !s.door.mayGuess(c.Request.RemoteAddr) {
		c.Header("Retry-After", "10")
		s.showSignIn(
			c,
			http.StatusTooManyRequests,
			back,
			&notice{Kind: "wrong", Text: "Too many tries. Wait ten seconds, then try again."},
		)
		return
	}
	if !s.door.locked() || bcrypt.CompareHashAndPassword(s.door.hash, []byte(c.PostForm("password"))) != nil {
		s.log.Warn("a password did not match", "from", c.Request.RemoteAddr)
		s.showSignIn(c, http.StatusUnauthorized, back, &notice{Kind: "wrong", Text: "That is not the password."})
		return
	}
	s.door.open(c)
	c.Redirect(http.StatusSeeOther, back)
}

func (s *Server) signOut(c *gin.Context) {
	s.door.shut(c)
	c.Redirect(http.StatusSeeOther, "/sign-in")
}
