package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/store"
)

// change applies an edit that a form asks for and goes back to the form's page. When the edit is refused, again shows
// the form with what was entered: problems says what is wrong where, stale that the page was older than the trip.
func (s *Server) change(c *gin.Context, label string, edit func(bundle.Doc) error,
	again func(problems bundle.Problems, stale bool)) {
	id, err := tripID(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	err = s.store.Change(c.Request.Context(), id, formVersion(c), label, edit)
	s.answer(c, err, again)
}

// formVersion is the version of the trip that the form was made from.
func formVersion(c *gin.Context) int {
	version, _ := strconv.Atoi(c.PostForm("version"))
	return version
}

// answer follows up a change: back to the page, or again to the form.
func (s *Server) answer(c *gin.Context, err error, again func(problems bundle.Problems, stale bool)) {
	var problems bundle.Problems
	switch {
	case err == nil:
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), c.Request.URL.Path))
	case errors.Is(err, store.ErrStale):
		again(nil, true)
	case errors.As(err, &problems):
		again(problems, false)
	default:
		s.refuse(c, err)
	}
}

// mendOf says what is wrong first and what mends it, as a sentence.
func mendOf(problems bundle.Problems) string {
	return sentence(problems[0].What + "; " + problems[0].Mend)
}

// tripOptions are the trips as choices of a list; none when they cannot be read.
func (s *Server) tripOptions(c *gin.Context) (list []option) {
	trips, err := s.store.Trips(c.Request.Context())
	if err != nil {
		return nil
	}
	for _, t := range trips {
		list = append(list, option{Value: fmt.Sprint(t.ID), Label: t.Name})
	}
	return list
}

// nameOf is what an item of the trip is called, its id when there is no such item.
func (s *Server) nameOf(c *gin.Context, item string) string {
	if t, err := s.trip(c); err == nil {
		if i := t.index(item); i >= 0 {
			return t.task().Items[i].Name
		}
	}
	return item
}

// undo takes the last change back.
func (s *Server) undo(c *gin.Context) { s.step(c, s.store.Undo) }

// redo brings the change that was taken back last again.
func (s *Server) redo(c *gin.Context) { s.step(c, s.store.Redo) }

func (s *Server) step(c *gin.Context, move func(ctx context.Context, id uint, version int) (string, error)) {
	id, err := tripID(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	_, err = move(c.Request.Context(), id, formVersion(c))
	if errors.Is(err, store.ErrNoUndo) {
		err = nil // the page that comes back no longer offers it
	}
	s.answer(c, err, func(bundle.Problems, bool) { s.reload(c) })
}

// reload answers a stale form that has nothing to keep: the newest page, with a word about it.
func (s *Server) reload(c *gin.Context) {
	s.show(c, func(t *trip) {
		p := s.loadPage(t, lookOf(c), settingsOf(c).Units)
		p.Notice = staleNotice()
		p.Here = localPath(c.PostForm("return"), "/")
		s.render(c, http.StatusConflict, p)
	})
}

func staleNotice() *notice {
	return &notice{Kind: "wrong",
		Text: "The trip was changed in another window in the meantime. This is its newest state; nothing of it was overwritten. Do your change again if you still want it."}
}
