package sheet_test

import (
	"fmt"
	"os"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle/sheet"
	"tornister/internal/campaign"
)

func TestHostileSheetsEndInTime(t *testing.T) {
	if os.Getenv("TORNISTER_HOSTILE") == "" {
		t.Parallel()
		if _, err := os.Stat("/proc/self/status"); err != nil {
			t.Skip("the system does not tell the most room taken")
		}
		cmd := exec.Command(os.Args[0], "-test.run", "^TestHostileSheetsEndInTime$", "-test.v") // the room of this one alone
		cmd.Env = append(os.Environ(), "TORNISTER_HOSTILE=1", "GOMEMLIMIT=200MiB")
		out, err := cmd.CombinedOutput()
		assert.NoError(t, err, string(out))
		return
	}
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
		fmt.Printf("%s: %d kB, %v, %v\n", name, len(c.Data)>>10, took.Round(time.Millisecond), err)
		assert.Less(t, took, 6*time.Second, name) // two on an idle machine
	}
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	var peak int
	for line := range strings.SplitSeq(string(status), "\n") {
		_, _ = fmt.Sscanf(line, "VmHWM: %d kB", &peak)
	}
	fmt.Printf("most room taken: %d MB, files built here included\n", peak>>10)
	assert.Less(t, peak, 500<<10, "kB; three hundred megabytes without the files built here")
}
