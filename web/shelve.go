package web

import (
	"github.com/gin-gonic/gin"

	"tornister/bundle"
)

// shelve puts one thing of the trip on the shelf, or all that are not there yet.
func (s *Server) shelve(c *gin.Context) {
	id, err := tripID(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	var ids []string
	if item := c.PostForm("item"); item != "" {
		ids = []string{item}
	}
	_, err = s.store.Shelve(c.Request.Context(), id, formVersion(c), ids)
	s.answer(c, err, func(problems bundle.Problems, stale bool) {
		s.layoutAgain(c, c.PostForm("item"), nil, problems, stale)
	})
}
