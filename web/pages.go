package web

import (
	"bytes"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/unit"
	"tornister/store"
	"tornister/web/draw"
)

//go:embed templates
var templates embed.FS

// pages are the parsed templates by name; each is the shell with its own work and side.
type pages struct{ byName map[string]*template.Template }

func loadPages() (*pages, error) {
	functions := template.FuncMap{"mark": draw.StateMark, "hatches": draw.Hatches, "kind": draw.KindMark}
	shell, err := template.New("shell").Funcs(functions).ParseFS(templates, "templates/shell.html", "templates/parts.html")
	if err != nil {
		return nil, fmt.Errorf("templates: %w", err)
	}
	p := &pages{map[string]*template.Template{}}
	for _, name := range []string{"home", "trip", "layout", "shrink", "dry", "rehearse", "sheet", "shelf", "packs",
		"pack", "load", "compare", "along", "hand", "weigh", "way", "back", "party", "check", "cards", "stock", "practice", "exercise", "manual",
		"message",
		"signin", "broken"} {
		page, err := shell.Clone()
		if err == nil {
			page, err = page.ParseFS(templates, "templates/"+name+".html")
		}
		if err != nil {
			return nil, fmt.Errorf("template %s: %w", name, err)
		}
		p.byName[name] = page
	}
	return p, nil
}

// page is what the shell shows; Body is the view model of the page itself.
type page struct {
	Title     string
	Name      string // the template, also a class of the document
	Trip      *tripView
	Road      []stepView
	Checks    []checkView
	Headline  string
	Detail    string
	Notice    *notice
	Settings  settings
	Here      string // path and query, for forms to come back to
	Path      string // of the page that is shown
	Body      any
	Twice     []twiceRow
	Room      *roomView // the shelf or the packs, with what undo would take back there
	Packs     []option  // that the trip can change to, where that is offered
	Searching bool      // a better plan is being looked for
	Better    bool      // it is there, and only how sure it is, is still worked out
	Alarm     string
	Locked    bool // a password was asked for
}

// roomView is a room beside the road whose changes can be taken back.
type roomView struct{ Name, Undo string }

// roomOf is the room that a page is in, nil for none.
func (s *Server) roomOf(c *gin.Context, page string) *roomView {
	room, in := map[string]store.Room{"shelf": store.ShelfRoom, "packs": store.PacksRoom, "pack": store.PacksRoom}[page]
	if !in {
		return nil
	}
	label, err := s.store.LastShelfStep(c.Request.Context(), room)
	if err != nil {
		s.log.Warn("what undo would do is not known", "room", room, "error", err)
	}
	return &roomView{string(room), label}
}

// undoRoom takes the last change of the shelf or of the packs back.
func (s *Server) undoRoom(c *gin.Context) {
	room := store.Room(c.Param("room"))
	if room != store.ShelfRoom && room != store.PacksRoom {
		s.missing(c)
		return
	}
	if err := s.store.UndoShelf(c.Request.Context(), room); err != nil && !errors.Is(err, store.ErrNoUndo) {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/"+string(room))
}

// notice is a message above the work: what went wrong, or what was done.
type notice struct {
	Kind  string // told or wrong
	Text  string
	Lines []string
}

// settings are kept in cookies of this browser.
type settings struct {
	Units unit.System
	Theme string // auto, light or dark
	// KeysOff switches the keys that are letters off.
	KeysOff bool
}

// settingsOf reads the cookies; unknown values fall back.
func settingsOf(c *gin.Context) settings {
	s := settings{Units: unit.Metric, Theme: "auto"}
	if v, _ := c.Cookie("units"); v == string(unit.Customary) {
		s.Units = unit.Customary
	}
	if v, _ := c.Cookie("theme"); v == "light" || v == "dark" {
		s.Theme = v
	}
	keys, _ := c.Cookie("keys")
	s.KeysOff = keys == "off"
	return s
}

// settings stores a choice of units, theme or keys in this browser.
func (s *Server) settings(c *gin.Context) {
	for _, name := range []string{"units", "theme", "keys"} {
		if v, ok := c.GetPostForm(name); ok && len(v) < 20 {
			http.SetCookie(c.Writer, &http.Cookie{Name: name, Value: v, Path: "/", MaxAge: 365 * 24 * 3600, HttpOnly: true,
				SameSite: http.SameSiteLaxMode})
		}
	}
	c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/"))
}

// render writes a page. It is written to memory first, so that a failing template never leaves half a document.
func (s *Server) render(c *gin.Context, status int, p page) {
	p.Settings, p.Alarm, p.Locked = settingsOf(c), s.alarm(), s.door.locked() && p.Name != "signin"
	p.Path = c.Request.URL.Path
	p.Room = s.roomOf(c, p.Name)
	if p.Here == "" {
		p.Here = c.Request.URL.RequestURI()
	}
	if c.Request.Method == http.MethodPost {
		// A form that is shown again stands where it was, not at the address that took it.
		p.Here = localPath(c.PostForm("return"), pageOf(p.Path))
		p.Path, _, _ = strings.Cut(p.Here, "?")
		c.Header("HX-Push-Url", "false")
	}
	var out bytes.Buffer
	if err := s.pages.byName[p.Name].ExecuteTemplate(&out, "shell", p); err != nil {
		_ = c.Error(err)
		c.String(http.StatusInternalServerError, "The page could not be drawn: %v", err)
		return
	}
	c.Data(status, "text/html; charset=utf-8", out.Bytes())
}

// fragment writes one named part of a page, for what is shown while somebody types.
func (s *Server) fragment(c *gin.Context, name, part string, body any) {
	var out bytes.Buffer
	if err := s.pages.byName[name].ExecuteTemplate(&out, part, body); err != nil {
		_ = c.Error(err)
		c.Status(http.StatusInternalServerError)
		return
	}
	c.Data(http.StatusOK, "text/html; charset=utf-8", out.Bytes())
}

// fail shows an error as a page of its own.
func (s *Server) fail(c *gin.Context, status int, err error) {
	headline := map[int]string{http.StatusNotFound: "There is nothing here.",
		http.StatusBadRequest:            "That could not be understood.",
		http.StatusRequestEntityTooLarge: "That is too large."}[status]
	if headline == "" {
		headline = "That did not work."
	}
	s.render(c, status, page{Title: headline, Name: "message", Headline: headline, Detail: sentence(err.Error()),
		Here: "/"})
}

// localPath accepts a path within this program and falls back for anything else. Browsers pass over tabs and line
// breaks and take a backslash for a slash (WHATWG URL Standard), so none may be in it.
func localPath(path, fallback string) string {
	if !strings.HasPrefix(path, "/") || strings.HasPrefix(path, "//") ||
		strings.IndexFunc(path, func(r rune) bool { return r == '\\' || bundle.Hidden(r) }) >= 0 {
		return fallback
	}
	if u, err := url.Parse(path); err != nil || u.Host != "" || u.Scheme != "" || u.User != nil {
		return fallback
	}
	return path
}
