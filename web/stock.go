package web

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/store"
)

// stockView is the centre's shelf: what there is to lend, what is out, what is out of use.
type stockView struct {
	Rows   []stockRow
	Chosen *stockRow
	Trips  []option
	Lines  string
	Wrong  []string
	Labels bool
}

type stockRow struct {
	Code, Name, Href, Note  string
	Pieces, Here, Away, Bad int
	State, Word             string
	Loans                   []loanRow
	Label                   template.HTML
	Chosen                  bool
}

type loanRow struct {
	ID        uint
	Pieces    int
	Words     string
	Late, Bad bool
}

func (s *Server) showStock(c *gin.Context) { s.stockPage(c, http.StatusOK, nil, nil, "") }

// stockPage shows the shelf, with what is wrong of a form.
func (s *Server) stockPage(c *gin.Context, status int, told *notice, wrong []string, lines string) {
	list, err := s.store.Stocks(c.Request.Context())
	if err != nil {
		s.refuse(c, err)
		return
	}
	chosen := strings.ToUpper(strings.TrimSpace(c.Query("code")))
	today := time.Now().Format(time.DateOnly)
	v := &stockView{Wrong: wrong, Lines: lines, Labels: c.Query("labels") != ""}
	pieces, here := 0, 0
	for i := range list {
		row := newStockRow(&list[i], today)
		row.Chosen = row.Code == chosen
		if v.Labels || row.Chosen {
			row.Label = squares(row.Code)
		}
		pieces, here = pieces+row.Pieces, here+row.Here
		v.Rows = append(v.Rows, row)
		if row.Chosen {
			v.Chosen = &v.Rows[len(v.Rows)-1]
		}
	}
	if chosen != "" && v.Chosen == nil && told == nil {
		told = &notice{Kind: "wrong",
			Text: fmt.Sprintf("Nothing here has the code %s. Look at the label again, or choose from the list.",
				clip(chosen, 40))}
	}
	v.Trips = append([]option{{"", "no trip", true}}, s.tripOptions(c)...)
	p := page{Title: "Centre's shelf", Name: "stock", Headline: fmt.Sprintf("%d of %d pieces are here.", here, pieces),
		Detail: "What a centre lends: counted, handed out, taken back, and out of use until it is mended.", Notice: told,
		Body: v}
	if len(list) == 0 {
		p.Headline = "The centre's shelf is empty."
	}
	s.render(c, status, p)
}

func newStockRow(one *store.Stocked, today string) stockRow {
	row := stockRow{Code: one.Code, Name: one.Name, Note: one.Note, Pieces: one.Pieces, Here: one.Here(), Away: one.Away,
		Bad: one.Bad, Href: "/stock?" + url.Values{"code": {one.Code}}.Encode(), State: "settled", Word: "all here"}
	for _, l := range one.Loans {
		loan := loanRow{ID: l.ID, Pieces: l.Pieces, Bad: l.Back != nil, Late: l.Back == nil && l.Due != "" && l.Due < today}
		switch {
		case loan.Bad:
			loan.Words = fmt.Sprintf("%d not good, back from %s: %s", l.Pieces, l.Borrower, l.Condition)
		case l.Due != "":
			loan.Words = fmt.Sprintf("%d out to %s, due %s", l.Pieces, l.Borrower, l.Due)
		default:
			loan.Words = fmt.Sprintf("%d out to %s since %s", l.Pieces, l.Borrower, l.Out.Format(time.DateOnly))
		}
		if loan.Late {
			row.State = "stop"
		}
		row.Loans = append(row.Loans, loan)
	}
	switch {
	case row.State == "stop":
		row.Word = "late"
	case one.Bad > 0:
		row.State, row.Word = "look", fmt.Sprintf("%d out of use", one.Bad)
	case one.Away > 0:
		row.State, row.Word = "", fmt.Sprintf("%d out", one.Away)
	}
	return row
}

// stockDone goes back to the shelf, or shows what is wrong.
func (s *Server) stockDone(c *gin.Context, err error) {
	var problems bundle.Problems
	code := c.PostForm("code")
	if errors.As(err, &problems) {
		c.Request.URL.RawQuery = url.Values{"code": {code}}.Encode()
		s.stockPage(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: mendOf(problems)}, nil, "")
		return
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/stock"))
}

// addStock puts typed things on the centre's shelf: 12 foam mats.
func (s *Server) addStock(c *gin.Context) {
	all, tooMany := s.understand(c, c.PostForm("lines"))
	var bad, wrong []string
	for _, one := range all {
		err := one.err
		if err == nil {
			pieces := max(1, one.told.Count)
			if len(one.more) > 0 { // a tent is lent whole
				one.item = itemOf(one.told)
			}
			object := bundle.Own(one.item)
			name, _ := object["name"].(string)
			_, err = s.store.AddStock(c.Request.Context(), name, object, pieces)
		}
		if err != nil {
			bad, wrong = append(bad, one.line), append(wrong, fmt.Sprintf("%s: %s.", one.line, err))
		}
	}
	if tooMany != nil {
		wrong = append(wrong, sentence(tooMany.Error()))
	}
	if len(all) == 0 {
		wrong = append(wrong, "Type how many and what: 12 foam mat")
	}
	if len(wrong) > 0 {
		s.stockPage(c, http.StatusUnprocessableEntity, nil, wrong, strings.Join(bad, "\n"))
		return
	}
	s.stockDone(c, nil)
}

// whole reads a whole number of a form.
func whole(c *gin.Context, name string) int {
	n, err := strconv.Atoi(strings.TrimSpace(c.PostForm(name)))
	if err != nil {
		return -1
	}
	return n
}

func (s *Server) setStock(c *gin.Context) {
	pieces := whole(c, "pieces")
	if pieces < 0 || pieces > 1000 {
		s.stockDone(c, bundle.Problems{{Pointer: "/pieces",
			What: fmt.Sprintf("%q is no number of pieces", c.PostForm("pieces")),
			Mend: "give whole pieces up to 1000; none takes it off the shelf"}})
		return
	}
	s.stockDone(c, s.store.SetStock(c.Request.Context(), c.PostForm("code"), pieces,
		clip(strings.TrimSpace(c.PostForm("note")), 300)))
}

func (s *Server) handOut(c *gin.Context) {
	borrower, due := clip(strings.TrimSpace(c.PostForm("borrower")), 100), strings.TrimSpace(c.PostForm("due"))
	trip, _ := strconv.ParseUint(c.PostForm("trip"), 10, 32)
	var err error
	switch _, wrong := time.Parse(time.DateOnly, due); {
	case borrower == "":
		err = bundle.Problems{{Pointer: "/borrower", What: "nobody's name is given", Mend: "write who takes it"}}
	case due != "" && wrong != nil:
		err = bundle.Problems{{Pointer: "/due", What: fmt.Sprintf("%q is no day", due),
			Mend: "write it as YYYY-MM-DD, or leave it empty"}}
	default:
		err = s.store.HandOut(c.Request.Context(), c.PostForm("code"), whole(c, "pieces"), borrower, uint(trip), due)
	}
	s.stockDone(c, err)
}

func (s *Server) takeBack(c *gin.Context) {
	condition := clip(strings.TrimSpace(c.PostForm("condition")), 200)
	if c.PostForm("how") == "good" {
		condition = ""
	} else if condition == "" {
		condition = "not good"
	}
	s.stockDone(c, s.store.TakeBack(c.Request.Context(), uint(max(0, whole(c, "loan"))), whole(c, "pieces"), condition))
}

func (s *Server) mended(c *gin.Context) {
	s.stockDone(c, s.store.Mended(c.Request.Context(), uint(max(0, whole(c, "loan")))))
}

// shortRow is what the party takes of the centre's shelf.
type shortRow struct{ State, Words string }

// fromCentre sets what the group takes from the centre's shelf against what is there for it.
func fromCentre(group *bundle.Party, stocks []store.Stocked, trip uint) (rows []shortRow, choices []option) {
	needed := ofCentre(group)
	for i := range stocks {
		one := &stocks[i]
		choices = append(choices, option{Value: one.Code,
			Label: fmt.Sprintf("%s, %d of %d here", one.Name, one.Here(), one.Pieces)})
		n := needed[one.Code]
		if n == 0 {
			continue
		}
		ours := 0
		var why []string
		told := newStockRow(one, "").Loans // in the order of the loans
		for k, l := range one.Loans {
			if l.Back == nil && l.TripID == trip {
				ours += l.Pieces
			} else {
				why = append(why, told[k].Words)
			}
		}
		if have := ours + one.Here(); have < n {
			rows = append(rows, shortRow{"stop",
				fmt.Sprintf("%s: %d needed, %d there; %s", one.Name, n, have, strings.Join(why, "; "))})
		} else {
			rows = append(rows, shortRow{"settled", fmt.Sprintf("%s: %d needed, %d there, %d handed out", one.Name, n, have,
				ours)})
		}
	}
	return rows, choices
}

// ofCentre is how many pieces the group takes of each code of the centre's shelf.
func ofCentre(group *bundle.Party) map[string]int {
	needed := map[string]int{}
	for _, thing := range group.Group {
		code, _ := thing["stock"].(string)
		needed[code] += bundle.Count(thing)
	}
	return needed
}

// takeFromCentre puts pieces of the centre's shelf among what the group shares.
func (s *Server) takeFromCentre(c *gin.Context) {
	stocks, err := s.store.Stocks(c.Request.Context())
	if err != nil {
		s.refuse(c, err)
		return
	}
	code, pieces := c.PostForm("stock"), whole(c, "pieces")
	s.changeParty(c, "from the centre's shelf", editParty(func(p *bundle.Party) error {
		for i := range stocks {
			if one := &stocks[i]; one.Code == code {
				if pieces < 1 || pieces > 40 {
					return bundle.Problems{{Pointer: "/pieces", What: "that is no number of pieces", Mend: "give 1 to 40"}}
				}
				thing := bundle.Own(one.Object)
				thing["stock"] = one.Code
				if pieces > 1 {
					thing["count"] = bundle.Number(float64(pieces))
				}
				p.AddThing(thing)
				return nil
			}
		}
		return bundle.Problems{{Pointer: "/stock", What: "the centre's shelf has that no more", Mend: "choose again"}}
	}))
}

// handOutParty hands out to the party what it takes of the centre's shelf and has not got yet.
func (s *Server) handOutParty(c *gin.Context) {
	s.show(c, func(t *trip) {
		group := t.Doc.Party()
		stocks, err := s.store.Stocks(c.Request.Context())
		if err != nil || group == nil {
			s.refuse(c, errors.Join(err,
				bundle.Problems{{Pointer: "/party", What: "nobody else walks along", Mend: "add somebody first"}}))
			return
		}
		due := ""
		if _, end, ok := t.task().Trip.Times(); ok {
			due = end.Format(time.DateOnly)
		}
		needed := ofCentre(group)
		for i := range stocks {
			n := needed[stocks[i].Code]
			for _, l := range stocks[i].Loans {
				if l.Back == nil && l.TripID == t.ID {
					n -= l.Pieces
				}
			}
			if n = min(n, stocks[i].Here()); n > 0 && err == nil {
				err = s.store.HandOut(c.Request.Context(), stocks[i].Code, n, t.Doc.Name(), t.ID, due)
			}
		}
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/party", t.ID))
	})
}
