package sheet_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"tornister/bundle/sheet"
	"tornister/internal/campaign"
)

// Files of some kilobytes that took gigabytes or minutes. The room that they take is measured in package campaign.
func TestHostileSheetsEndInTime(t *testing.T) {
	t.Parallel()
	for name, c := range campaign.HostileSheets(t) {
		start := time.Now()
		table, err := sheet.Read(c.Data, "")
		took := time.Since(start)
		if c.Word != "" {
			assert.ErrorIs(t, err, sheet.ErrSheet, name)
			assert.ErrorContains(t, err, c.Word, name)
		} else if err == nil {
			assert.NotNil(t, table, name)
		}
		assert.Less(t, took, 6*time.Second, name) // two on an idle machine
	}
}
