package web

import (
	"cmp"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/bundle/dates"
	"tornister/bundle/sheet"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/store"
)

// uploads keeps spreadsheets between choosing the file and bringing it in. They are lost when the program stops; the
// file is still where it came from.
type uploads struct {
	mu    sync.Mutex
	kept  map[string]*upload
	order []string
}

// keptUploads bounds the memory of uploads; the oldest goes first.
const keptUploads = 12

type upload struct {
	name string
	data []byte
}

func (u *uploads) add(name string, data []byte) (key string) {
	u.mu.Lock()
	defer u.mu.Unlock()
	if u.kept == nil {
		u.kept = map[string]*upload{}
	}
	key = strings.ToLower(rand.Text()[:16])
	u.kept[key] = &upload{name, data}
	if u.order = append(u.order, key); len(u.order) > keptUploads {
		delete(u.kept, u.order[0])
		u.order = u.order[1:]
	}
	return key
}

func (u *uploads) get(key string) *upload {
	u.mu.Lock()
	defer u.mu.Unlock()
	return u.kept[key]
}

// sheetView is the page that brings a spreadsheet in: the file, then what its columns mean, then what would become of
// it.
type sheetView struct {
	Key, File    string
	Sheets       []option
	Columns      []columnRow
	DecimalComma bool
	Notes        []string
	Rows         []sheetRow
	Good, Bad    int
	More         int // rows not shown
	Query        string
}

type columnRow struct {
	Index   int
	Heading string
	Example string
	Fields  []option
	Units   []option
}

type sheetRow struct {
	Line                             int
	Name, Count, Mass, Litres, Taken string
	Reason                           string
	Cells                            string
}

// shownRows bounds the preview.
const shownRows = 200

func (s *Server) showSheet(c *gin.Context) {
	s.show(c, func(t *trip) { s.renderSheet(c, t, http.StatusOK, nil) })
}

func (s *Server) renderSheet(c *gin.Context, t *trip, status int, told *notice) {
	p := t.shell("sheet", "Bring in a spreadsheet")
	for i := range p.Road {
		p.Road[i].Current = steps[i].path == "layout"
	}
	v := &sheetView{Key: c.Param("key")}
	p.Headline, p.Detail = "Bring in a spreadsheet.", "CSV or XLSX, any order of columns. Nothing is put on the list before you have seen what would become of each row."
	p.Body, p.Notice = v, told
	if v.Key == "" {
		s.render(c, status, p)
		return
	}
	up := s.uploads.get(v.Key)
	if up == nil {
		v.Key = ""
		p.Notice = &notice{Kind: "wrong", Text: "The file is not here any more; choose it again. Nothing was brought in."}
		s.render(c, http.StatusNotFound, p)
		return
	}
	table, err := sheet.Read(up.data, c.Query("sheet"))
	if err != nil {
		v.Key = ""
		p.Notice = &notice{Kind: "wrong", Text: sentence(up.name + " is " + err.Error())}
		s.render(c, http.StatusUnprocessableEntity, p)
		return
	}
	mapping := mappingOf(c, table)
	rows := sheet.Items(table, mapping)
	v.fill(c, up, table, mapping, rows)
	p.Headline = fmt.Sprintf("%s of %s can be brought in.", unit.Capital(count(v.Good, "row")), up.name)
	if v.Bad > 0 {
		p.Headline = fmt.Sprintf("%s can be brought in, %d cannot.", unit.Capital(count(v.Good, "row")), v.Bad)
	}
	p.Detail = "Look whether each column is taken for what it is; the list below follows."
	s.render(c, status, p)
}

// mappingOf is the mapping that the page's address asks for, and where it says nothing, what is proposed.
func mappingOf(c *gin.Context, t *sheet.Table) sheet.Mapping {
	m := sheet.Propose(t)
	for i := range m.Columns {
		if field, given := c.GetQuery(fmt.Sprintf("c%d", i)); given {
			f, known := sheet.FieldOf(field)
			if !known {
				continue
			}
			units := sheet.Units[f.Kind]
			chosen := c.Query(fmt.Sprintf("u%d", i))
			switch {
			case len(units) == 0:
				chosen = ""
			case !slices.Contains(units, chosen):
				chosen = units[0]
			}
			m.Columns[i] = sheet.Column{Field: field, Unit: chosen}
		}
	}
	if comma, given := c.GetQuery("comma"); given {
		m.DecimalComma = comma == "1"
	}
	return m
}

func (v *sheetView) fill(c *gin.Context, up *upload, t *sheet.Table, m sheet.Mapping, rows []sheet.Row) {
	system := settingsOf(c).Units
	v.File, v.Notes, v.DecimalComma, v.Query = up.name, t.Notes, m.DecimalComma, c.Request.URL.RawQuery
	for _, name := range t.Sheets {
		v.Sheets = append(v.Sheets, option{name, name, name == t.Name})
	}
	for i, heading := range t.Heading {
		row := columnRow{Index: i, Heading: heading}
		if heading == "" {
			row.Heading = fmt.Sprintf("column %d", i+1)
		}
		for _, r := range t.Rows {
			if r[i] != "" {
				row.Example = clip(r[i], 24)
				break
			}
		}
		for _, f := range sheet.Fields {
			row.Fields = append(row.Fields, option{f.Key, f.Word, f.Key == m.Columns[i].Field})
			if f.Key == m.Columns[i].Field {
				for _, u := range sheet.Units[f.Kind] {
					row.Units = append(row.Units,
						option{u, strings.NewReplacer("cuin", "cu in", "floz", "fl oz", "l", "L").Replace(u), u == m.Columns[i].Unit})
				}
			}
		}
		v.Columns = append(v.Columns, row)
	}
	slices.SortStableFunc(rows, func(a, b sheet.Row) int { // what cannot be read first
		return cmp.Compare(min(1, len(b.Reason)), min(1, len(a.Reason)))
	})
	for _, r := range rows {
		if r.Reason != "" {
			v.Bad++
		} else {
			v.Good++
		}
		if len(v.Rows) == shownRows {
			v.More++
			continue
		}
		row := sheetRow{Line: r.Line, Reason: r.Reason,
			Cells: clip(strings.Join(slices.DeleteFunc(slices.Clone(r.Cells), func(c string) bool { return c == "" }), " · "),
				120)}
		if it, err := bundle.CompleteItem(r.Item); r.Item != nil && err == nil {
			row.Name, row.Count, row.Mass = it.Name, fmt.Sprint(it.Count), system.Mass(it.MassG)
			row.Litres = litresOf(&kit.Item{Count: 1, Shape: it.Shape}, system)
			if r.Item["mass_g"] == nil {
				row.Mass += " ?"
			}
			if r.Item["shape"] == nil {
				row.Litres += " ?"
			}
			if kind, known := kit.KindOf(it.Kind); known {
				row.Taken = unit.Small(kind.Name)
			}
		}
		v.Rows = append(v.Rows, row)
	}
}

// uploadSheet takes the file and goes on to its mapping.
func (s *Server) uploadSheet(c *gin.Context) {
	s.show(c, func(t *trip) {
		wrong := func(status int, text string) { s.renderSheet(c, t, status, &notice{Kind: "wrong", Text: text}) }
		name, data, err := uploadedFile(c, "sheet", sheet.MaxBytes)
		switch {
		case errors.Is(err, errTooLarge):
			wrong(http.StatusRequestEntityTooLarge, fmt.Sprintf("The file is larger than %d MB; split it.", sheet.MaxBytes>>20))
			return
		case errors.Is(err, errNoFile):
			wrong(http.StatusUnprocessableEntity, "Choose a file first.")
			return
		case err != nil:
			s.refuse(c, err)
			return
		}
		if _, err := sheet.Read(data, ""); err != nil {
			wrong(http.StatusUnprocessableEntity, sentence(name+" is "+err.Error()))
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/sheet/%s", t.ID, s.uploads.add(name, data)))
	})
}

// uploaded gives the table and rows of an upload under the mapping of the address.
func (s *Server) uploaded(c *gin.Context) (*sheet.Table, []sheet.Row, error) {
	up := s.uploads.get(c.Param("key"))
	if up == nil {
		return nil, nil, store.ErrNotFound
	}
	table, err := sheet.Read(up.data, c.Query("sheet"))
	if err != nil {
		return nil, nil, err
	}
	return table, sheet.Items(table, mappingOf(c, table)), nil
}

// takeSheet brings the rows in, all of them that can be read or, when anything fails, none.
func (s *Server) takeSheet(c *gin.Context) {
	_, rows, err := s.uploaded(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	good, bad := 0, 0
	for _, r := range rows {
		if r.Item != nil {
			good++
		} else {
			bad++
		}
	}
	again := func(told *notice, status int) {
		s.show(c, func(t *trip) { s.renderSheet(c, t, status, told) })
	}
	if good == 0 {
		again(&notice{Kind: "wrong",
			Text: "Not one row can be brought in. Look at the columns: which one holds the names?"},
			http.StatusUnprocessableEntity)
		return
	}
	if bad > 0 && c.PostForm("without") == "" {
		again(&notice{Kind: "wrong",
			Text: fmt.Sprintf("Nothing was brought in: %s cannot be read. Mend the columns or the file, or tick that they are to be left out.", count(bad, "row"))}, http.StatusUnprocessableEntity)
		return
	}
	replace := c.PostForm("replace") != ""
	id, err := tripID(c)
	if err == nil {
		err = s.store.Change(c.Request.Context(), id, formVersion(c), fmt.Sprintf("bring in %d rows", good),
			func(doc bundle.Doc) error {
				sheet.Into(doc, rows, replace)
				if replace {
					return doc.Follow()
				}
				return nil
			})
	}
	s.answer(c, err, func(problems bundle.Problems, stale bool) {
		if stale {
			again(staleNotice(), http.StatusConflict)
			return
		}
		again(&notice{Kind: "wrong", Text: "Nothing was brought in: " + problems[0].What + "; " + problems[0].Mend + "."},
			http.StatusUnprocessableEntity)
	})
}

// refusedRows gives the rows that cannot be read as a file, each with its reason.
func (s *Server) refusedRows(c *gin.Context) {
	table, rows, err := s.uploaded(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	attachment(c, "text/csv; charset=utf-8", "rows-left-out.csv")
	if err := sheet.WriteRefused(c.Writer, table, rows); err != nil {
		_ = c.Error(err)
	}
}

func attachment(c *gin.Context, mediaType, name string) {
	c.Header("Content-Type", mediaType)
	c.Header("Content-Disposition", `attachment; filename="`+name+`"`)
}

// exportCSV and exportXLSX give the kit list as a spreadsheet.
func (s *Server) exportCSV(c *gin.Context) {
	s.exportList(c, "text/csv; charset=utf-8", "kit.csv", sheet.WriteCSV)
}

func (s *Server) exportXLSX(c *gin.Context) {
	s.exportList(c, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "kit.xlsx", sheet.WriteXLSX)
}

func (s *Server) exportList(c *gin.Context, mediaType, name string,
	write func(io.Writer, []kit.Item, unit.System) error) {
	s.show(c, func(t *trip) {
		attachment(c, mediaType, name)
		if err := write(c.Writer, t.task().Items, settingsOf(c).Units); err != nil {
			_ = c.Error(err)
		}
	})
}

// exportDates gives the dates of a trip's kit as a calendar.
func (s *Server) exportDates(c *gin.Context) {
	s.show(c, func(t *trip) {
		var list []dates.Dated
		for i := range t.task().Items {
			if it := &t.task().Items[i]; it.Expires != "" {
				key := it.Shelf
				if key == "" {
					key = fmt.Sprintf("trip-%d-%s", t.ID, it.ID)
				}
				list = append(list, dates.Dated{Key: key, Name: it.Name, Day: it.Expires, Note: "On the list of " + t.Doc.Name()})
			}
		}
		if start, _, ok := t.task().Trip.Times(); ok {
			for i, leg := range t.task().Trip.Legs {
				note := fmt.Sprintf("%.1f km, %.1f h", leg.Km, leg.Walking())
				if leg.Water {
					note += ", water where it ends"
				}
				list = append(list, dates.Dated{Key: fmt.Sprintf("trip-%d-leg-%d", t.ID, i+1),
					Name: cmp.Or(leg.Name, fmt.Sprintf("Leg %d", i+1)), Day: start.AddDate(0, 0, leg.Day-1).Format(time.DateOnly),
					Note: t.Doc.Name() + ": " + note})
			}
		}
		s.calendar(c, list)
	})
}

// exportShelfDates gives the dates of everything on the shelf.
func (s *Server) exportShelfDates(c *gin.Context) {
	things, err := s.store.Things(c.Request.Context(), store.Query{Status: "dated"})
	if err != nil {
		s.refuse(c, err)
		return
	}
	var list []dates.Dated
	for _, thing := range things {
		if thing.Status != store.Retired {
			list = append(list, dates.Dated{Key: thing.Key, Name: thing.Name, Day: thing.Expires, Note: "On the shelf"})
		}
	}
	s.calendar(c, list)
}

func (s *Server) calendar(c *gin.Context, list []dates.Dated) {
	attachment(c, "text/calendar; charset=utf-8", "dates.ics")
	if err := dates.Write(c.Writer, list, time.Now().UTC()); err != nil {
		_ = c.Error(err)
	}
}
