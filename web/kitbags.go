package web

import (
	"fmt"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/load"
)

// kitBagView is a kit bag that is proposed on Lay out.
type kitBagView struct {
	Purpose, Name, Things string
	Try                   string // address that shows its effect on all checks
	Trial                 *trialView
}

var kitBagNames = map[string]string{"kitchen": "Kitchen bag", "clothes": "Clothes bag", "electronics": "Electronics bag",
	"toilet": "Toilet bag", "wash": "Wash bag", "ditty": "Ditty bag"}

// kitBags proposes bags for what lies loose, and tries the one that an address names.
func (t *trip) kitBags(try string, options load.Options) (list []kitBagView) {
	for _, p := range kit.ProposeBags(t.task().Items) {
		v := kitBagView{Purpose: p.Purpose, Name: kitBagNames[p.Purpose],
			Try: fmt.Sprintf("/trips/%d/layout?bag=%s#trial", t.ID, p.Purpose)}
		var names []string
		for _, id := range p.Items {
			names = append(names, t.task().Items[t.index(id)].Name)
		}
		v.Things = strings.Join(names, ", ")
		if p.Purpose == try {
			v.Trial = t.withKitBag(v.Name, p.Items, options)
		}
		list = append(list, v)
	}
	return list
}

// withKitBag sets the six checks side by side without and with a bag; nil when it cannot be.
func (t *trip) withKitBag(name string, items []string, options load.Options) *trialView {
	doc := t.Doc.Clone()
	if _, err := doc.AddKitBag(name, items); err != nil {
		return nil
	}
	b, err := bundle.FromDoc(doc)
	if err != nil {
		return nil
	}
	return t.sideBySide(&b.Task, options, t.system)
}

// addKitBag takes a proposed bag.
func (s *Server) addKitBag(c *gin.Context) {
	s.show(c, func(t *trip) {
		proposals := kit.ProposeBags(t.task().Items)
		i := slices.IndexFunc(proposals, func(p kit.Proposal) bool { return p.Purpose == c.PostForm("purpose") })
		if i < 0 {
			s.refuse(c, bundle.Problems{{Pointer: "/purpose", What: "that bag is not proposed any more", Mend: "go back to the list"}})
			return
		}
		name := kitBagNames[proposals[i].Purpose]
		s.change(c, "a "+strings.ToLower(name), func(doc bundle.Doc) error {
			_, err := doc.AddKitBag(name, proposals[i].Items)
			return err
		}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
	})
}
