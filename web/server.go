// Package web serves the interface: one handler file a step of the road, view models prepared in Go, html/template
// without logic. It translates between the store and the core and computes nothing of the trade itself.
//
// Every page is one full document; every change is a form that answers with a redirect to its page. htmx fetches the
// same documents in place and morphs the part called page, so that a change shows at once, and without scripts
// everything still works.
package web

import (
	"embed"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/card"
	"tornister/core/days"
	"tornister/core/verdict"
	"tornister/planner"
	"tornister/store"
	"tornister/weather"
	"tornister/web/draw"
)

//go:embed static
var static embed.FS

// maxForm bounds what a form may send; an uploaded bundle has its own, larger bound.
const maxForm = 1 << 20

// contentPolicy lets the page use what the program ships and nothing else: no inline script, style or outside
// address.
const contentPolicy = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; " +
	"connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

// Server answers requests from a store. Close it when it is not needed any more.
type Server struct {
	store     *store.Store
	weather   weather.Service
	planner   *planner.Planner[tripRead]
	shrunk    shrunk
	uploads   uploads
	held      held
	ways      memo[[]days.Stop]
	hands     memo[*handFound]
	advices   memo[handAdvised]
	drilled   memo[*verdict.Judged] // kits that exercises ship with, by name
	exercises memo[*exerciseRead]
	bearers   memo[bearerFound]  // each bearer of a party, by own document
	shares    memo[*sharesFound] // of a party, by what is shared
	pages     *pages
	options   Options
	door      *door
	log       *slog.Logger
	handler   http.Handler
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// Close stops the searches under way and waits for their ends.
func (s *Server) Close() {
	s.shrunk.stop()
	s.planner.Close()
}

// New builds the whole interface; forecasts are asked of the service.
func New(s *store.Store, forecasts weather.Service, o Options) (*Server, error) {
	pages, err := loadPages()
	if err != nil {
		return nil, err
	}
	server := &Server{store: s, weather: forecasts, pages: pages, options: o, door: newDoor(&o, time.Now), log: o.Log}
	if server.log == nil {
		server.log = slog.New(slog.DiscardHandler)
	}
	o.Planner.Found = server.keepVerdict
	server.planner = planner.New[tripRead](o.Planner)
	server.shrunk.init()
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(server.recorded, gin.CustomRecoveryWithWriter(io.Discard, server.recovered), headers, server.onlyOurNames,
		limit, server.knock, onlySeen, server.first)
	server.routes(router)
	server.handler = http.NewCrossOriginProtection().Handler(router)
	return server, nil
}

func (s *Server) routes(r *gin.Engine) {
	files, err := fs.Sub(static, "static")
	if err != nil {
		panic(err) // the folder is embedded
	}
	served := http.StripPrefix("/static/", http.FileServerFS(files))
	linked := map[string]string{"/card.css": card.Style(), "/card.js": card.Script()}
	r.GET("/static/*file", func(c *gin.Context) {
		if text, is := linked[c.Param("file")]; is {
			http.ServeContent(c.Writer, c.Request, c.Param("file"), time.Time{}, strings.NewReader(text))
			return
		}
		if strings.HasSuffix(c.Request.URL.Path, "/") {
			s.missing(c)
			return
		}
		c.Header("Cache-Control", "public, max-age=3600")
		served.ServeHTTP(c.Writer, c.Request)
	})
	r.GET("/healthz", s.health)
	r.GET("/debug/vars", s.figures)
	r.GET("/sign-in", s.signInPage)
	r.POST("/sign-in", s.signIn)
	r.POST("/sign-out", s.signOut)
	r.GET("/", s.home)
	r.GET("/answer.schema.json", func(c *gin.Context) {
		c.Data(http.StatusOK, "application/schema+json",
			bundle.AnswerSchema)
	})
	r.GET("/schema.json", func(c *gin.Context) { c.Data(http.StatusOK, "application/schema+json", bundle.Schema) })
	r.POST("/settings", s.settings)
	r.GET("/manual", s.manual)
	r.POST("/demo", s.openDemo)
	r.POST("/trips", s.createTrip)
	r.POST("/trips/import", s.importTrip)
	r.GET("/dates.ics", s.exportShelfDates)
	r.GET("/shelf", s.showShelf)
	r.POST("/shelf", s.addThing)
	r.POST("/shelf/bulk", s.bulkShelf)
	r.GET("/shelf/:thing", s.showThing)
	r.POST("/shelf/:thing", s.saveThing)
	r.POST("/shelf/:thing/remove", s.removeThing)
	r.GET("/shelf/:thing/photo", s.showPhoto)
	r.POST("/shelf/:thing/photo", s.savePhoto)
	r.GET("/stock", s.showStock)
	r.POST("/stock", s.addStock)
	r.POST("/stock/set", s.setStock)
	r.POST("/stock/out", s.handOut)
	r.POST("/stock/back", s.takeBack)
	r.POST("/stock/mended", s.mended)
	r.GET("/packs", s.showPacks)
	r.POST("/packs", s.addPack)
	r.POST("/undo/:room", s.undoRoom)
	r.GET("/practice", s.showPractice)
	r.POST("/practice", s.beginPractice)
	r.POST("/practice/forget", s.forgetPractice)
	r.GET("/practice/:exercise", s.showExercise)
	r.POST("/practice/:exercise", s.stepExercise)
	pack := r.Group("/packs/:pack")
	pack.GET("", s.showPack)
	pack.POST("", s.savePack)
	pack.POST("/remove", s.removePack)
	pack.POST("/use", s.usePack)
	pack.POST("/zones", s.addZone)
	pack.POST("/zones/:zone", s.saveZone)
	pack.POST("/zones/:zone/drawing", s.drawZone)
	pack.POST("/zones/:zone/remove", s.removeZone)
	trip := r.Group("/trips/:trip")
	trip.GET("", func(c *gin.Context) { c.Redirect(http.StatusSeeOther, c.Request.URL.Path+"/load") })
	trip.GET("/trip", s.showRoute)
	trip.POST("/trip", s.changeRoute)
	trip.POST("/legs", s.addLeg)
	trip.POST("/legs/:leg/remove", s.removeLeg)
	trip.POST("/supplies", s.supply)
	trip.POST("/forecast", s.askForecast)
	trip.POST("/forecast/take", s.takeForecast)
	trip.GET("/layout", s.showLayout)
	trip.POST("/items", s.addItem)
	trip.POST("/bulk", s.bulkItems)
	trip.POST("/again", s.again)
	trip.POST("/twice", s.onceOnly)
	trip.POST("/kitbags", s.addKitBag)
	trip.GET("/told", s.previewItem)
	trip.POST("/list", s.chooseList)
	trip.GET("/sheet", s.showSheet)
	trip.POST("/sheet", s.uploadSheet)
	trip.GET("/sheet/:key", s.showSheet)
	trip.POST("/sheet/:key", s.takeSheet)
	trip.GET("/sheet/:key/refused.csv", s.refusedRows)
	trip.GET("/kit.csv", s.exportCSV)
	trip.GET("/kit.xlsx", s.exportXLSX)
	trip.GET("/dates.ics", s.exportDates)
	trip.GET("/rehearse", s.showRehearse)
	trip.POST("/drills", s.addDrill)
	trip.POST("/drills/:drill/remove", s.removeDrill)
	trip.POST("/drills/:drill/time", s.addTime)
	trip.GET("/dry", s.showDry)
	trip.POST("/bags", s.addBag)
	trip.POST("/bags/:bag/remove", s.removeBag)
	trip.GET("/bags.lp", s.exportBarrierLP)
	trip.GET("/shrink", s.showShrink)
	trip.POST("/shrink", s.takeMoves)
	trip.GET("/shrink/progress", s.shrinkProgress)
	trip.GET("/shrink.lp", s.exportShrinkLP)
	trip.POST("/pack", s.choosePack)
	trip.POST("/shelve", s.shelve)
	trip.POST("/items/:item/measure", s.measureItem)
	trip.POST("/items/:item", s.changeItem)
	trip.POST("/items/:item/carry", s.carryItem)
	trip.POST("/items/:item/duplicate", s.duplicateItem)
	trip.POST("/items/:item/remove", s.removeItem)
	trip.GET("/load", s.showLoad)
	trip.GET("/find", s.find)
	trip.POST("/pins", s.pin)
	trip.POST("/method", s.chooseMethod)
	trip.POST("/preset", s.takePreset)
	trip.GET("/compare", s.showCompare)
	trip.GET("/progress", s.progress)
	trip.POST("/stop", s.stopSearch)
	trip.POST("/undo", s.undo)
	trip.POST("/redo", s.redo)
	trip.POST("/remove", s.removeTrip)
	trip.GET("/bundle.json", s.exportBundle)
	trip.GET("/plan.json", s.exportPlan)
	trip.GET("/card", s.showCard)
	trip.GET("/card.txt", s.cardFile("load-card.txt", "text/plain; charset=utf-8",
		func(k *card.Card, c *gin.Context) error { return k.Text(c.Writer) }))
	trip.GET("/card.html", s.cardFile("load-card.html", "text/html; charset=utf-8",
		func(k *card.Card, c *gin.Context) error { return k.HTML(c.Writer, nil) }))
	trip.GET("/card.pdf", s.cardFile("load-card.pdf", "application/pdf",
		func(k *card.Card, c *gin.Context) error { return k.PDF(c.Writer) }))
	trip.GET("/pack.svg", s.cardFile("pack.svg", "image/svg+xml", func(k *card.Card, c *gin.Context) error {
		_, err := c.Writer.Write(draw.Standalone(k.Drawing))
		return err
	}))
	trip.GET("/pack.png", s.cardFile("pack.png", "image/png", func(k *card.Card, c *gin.Context) error {
		picture, err := draw.PNG(k.Drawing, 2)
		if err == nil {
			_, err = c.Writer.Write(picture)
		}
		return err
	}))
	trip.GET("/way", s.showWay)
	trip.POST("/way/swap", s.swap)
	trip.GET("/party", s.showParty)
	trip.POST("/party/share", s.takeShare)
	trip.POST("/party/give", s.givePart)
	trip.POST("/party/keep", s.keepFree)
	trip.POST("/party/switch", s.switchBearer)
	trip.POST("/party/bearers", s.addBearer)
	trip.POST("/party/bearers/:bearer", s.changeBearer)
	trip.POST("/party/bearers/:bearer/remove", s.removeBearer)
	trip.POST("/party/group", s.addGroup)
	trip.POST("/party/group/remove", s.removeGroup)
	trip.POST("/party/centre", s.takeFromCentre)
	trip.POST("/party/handout", s.handOutParty)
	trip.GET("/cards", s.showCards)
	trip.POST("/cards", s.changeCardLink)
	trip.GET("/check", s.showKitCheck)
	trip.POST("/check", s.checkLine)
	trip.POST("/check/sign", s.signKit)
	trip.POST("/party/ties", s.addTie)
	trip.POST("/party/ties/remove", s.removeTie)
	trip.GET("/back", s.showBack)
	trip.POST("/back", s.answerBack)
	trip.POST("/back/left", s.leftBack)
	trip.POST("/back/count", s.countBack)
	trip.POST("/back/learned", s.takeLearned)
	trip.GET("/weigh", s.showWeigh)
	trip.GET("/scale", s.needle)
	trip.POST("/weighings", s.addWeighing)
	trip.POST("/weighings/:at/remove", s.removeWeighing)
	trip.POST("/masses", s.takeMasses)
	trip.POST("/tare", s.tare)
	trip.POST("/seen", s.sawPack)
	trip.GET("/along", s.showAlong)
	trip.GET("/hand", s.showHand)
	trip.POST("/hand", s.changeHand)
	trip.POST("/along", s.tickAlong)
	r.NoRoute(s.missing)
	r.HandleMethodNotAllowed = true
	r.NoMethod(s.onlyForms)
}

// headers sets what every answer carries.
func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", contentPolicy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cache-Control", "no-store")
	c.Next()
}

// limit bounds the body of a request before anything reads it.
func limit(c *gin.Context) {
	most := int64(maxForm)
	switch c.FullPath() {
	case "/trips/import", "/trips/:trip/sheet":
		most = bundle.MaxBytes + maxForm
	case "/shelf/:thing/photo":
		most = maxPhoto + maxForm
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, most)
	c.Next()
}
