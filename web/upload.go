package web

import (
	"errors"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"
)

// Errors of an upload, besides those of reading it.
var (
	errNoFile   = errors.New("no file was chosen")
	errTooLarge = errors.New("the file is too large")
)

// uploadedFile reads the file of a form's field, at most one byte more than most, so that whoever checks its size
// sees that it is over.
func uploadedFile(c *gin.Context, field string, most int64) (name string, data []byte, err error) {
	file, err := c.FormFile(field)
	if tooLarge := new(http.MaxBytesError); errors.As(err, &tooLarge) {
		return "", nil, errTooLarge
	}
	if err != nil {
		return "", nil, errNoFile
	}
	opened, err := file.Open()
	if err != nil {
		return "", nil, err
	}
	defer opened.Close()
	data, err = io.ReadAll(io.LimitReader(opened, most+1))
	return clip(file.Filename, 60), data, err
}
