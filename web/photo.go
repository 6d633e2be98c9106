package web

import (
	"bytes"
	"errors"
	"image"
	_ "image/gif"
	"image/jpeg"
	_ "image/png"
	"net/http"

	"github.com/gin-gonic/gin"
	xdraw "golang.org/x/image/draw"
)

// Photos are kept small and only as what they are drawn from anew: nothing of the file that was sent is served.
const (
	maxPhoto      = 6 << 20
	maxPixels     = 16_000_000 // a progressive JPEG of so many takes some 250 MB while it is decoded
	maxSide       = 10_000
	photoSide     = 640
	photoQuality  = 82
	photoType     = "image/jpeg"
	photoTooLarge = "The picture is larger than 6 MB or 16 million points; make it smaller."
)

// savePhoto keeps a picture of a thing.
func (s *Server) savePhoto(c *gin.Context) {
	key := c.Param("thing")
	wrong := func(text string) {
		s.renderShelf(c, http.StatusUnprocessableEntity, key, &notice{Kind: "wrong", Text: text}, nil)
	}
	if c.PostForm("remove") != "" {
		s.answerThing(c, s.store.SetPhoto(c.Request.Context(), key, nil, ""), readForm(c, settingsOf(c).Units))
		return
	}
	_, data, err := uploadedFile(c, "photo", maxPhoto)
	switch {
	case errors.Is(err, errTooLarge):
		wrong(photoTooLarge)
		return
	case errors.Is(err, errNoFile):
		wrong("Choose a picture first: JPEG, PNG or GIF, up to 6 MB.")
		return
	case err != nil:
		s.refuse(c, err)
		return
	}
	small, text := shrunkPhoto(data)
	if text != "" {
		wrong(text)
		return
	}
	s.answerThing(c, s.store.SetPhoto(c.Request.Context(), key, small, photoType), readForm(c, settingsOf(c).Units))
}

// decoding lets one picture be decoded at a time, so that the room it takes is taken once.
var decoding = make(chan struct{}, 1)

// shrunkPhoto draws a picture anew, at most 640 points a side; wrong says why it could not.
func shrunkPhoto(data []byte) (small []byte, wrong string) {
	if len(data) > maxPhoto {
		return nil, photoTooLarge
	}
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, "That is no picture: give a JPEG, PNG or GIF."
	}
	if config.Width < 1 || config.Height < 1 || config.Width > maxSide || config.Height > maxSide ||
		config.Width*config.Height > maxPixels {
		return nil, photoTooLarge
	}
	decoding <- struct{}{}
	defer func() { <-decoding }()
	picture, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, "The picture is broken: " + err.Error() + "."
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, fitted(picture, photoSide), &jpeg.Options{Quality: photoQuality}); err != nil {
		return nil, "The picture cannot be kept: " + err.Error() + "."
	}
	return out.Bytes(), ""
}

// fitted scales a picture down so that its longer side is at most so many points.
func fitted(picture image.Image, side int) image.Image {
	b := picture.Bounds()
	if b.Dx() <= side && b.Dy() <= side {
		return picture
	}
	w, h := side, side
	if b.Dx() >= b.Dy() {
		h = max(1, b.Dy()*side/b.Dx())
	} else {
		w = max(1, b.Dx()*side/b.Dy())
	}
	small := image.NewRGBA(image.Rect(0, 0, w, h))
	xdraw.CatmullRom.Scale(small, small.Bounds(), picture, b, xdraw.Over, nil)
	return small
}

func (s *Server) showPhoto(c *gin.Context) {
	data, mediaType, err := s.store.Photo(c.Request.Context(), c.Param("thing"))
	if err != nil || len(data) == 0 {
		s.missing(c)
		return
	}
	c.Data(http.StatusOK, mediaType, data)
}
