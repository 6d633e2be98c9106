package load_test

import (
	"fmt"
	"hash/crc32"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/load"
	"tornister/demo"
)

// told says how a plan was come by and where everything lies, in a line.
func told(p *load.Plan) string {
	return fmt.Sprintf("%d trials, bill %.4f, spread %.4f, squeeze %.3f, %d out, %.1f L, proof %.3f of %.3f, %08x", p.Trials,
		p.Bill, p.Spread, p.Squeeze, len(p.LeftOut), p.OverL, p.Proof.Bound, p.Proof.Objective,
		crc32.ChecksumIEEE(fmt.Append(nil, p.Arrangement())))
}

// The plans of the demo kits, to the trial, as they are and in packs that are too short for them. There is no chance in
// a search: who changes how it goes sees here that the plans are others, reads their orders aloud, and writes the new
// figures down. Processors that multiply and add in one step round otherwise.
func TestPlansAreTheSame(t *testing.T) {
	t.Parallel()
	if runtime.GOARCH != "amd64" {
		t.Skip("figures of amd64")
	}
	for n, want := range []string{
		"994 trials, bill 60.8988, spread 0.5305, squeeze 0.410, 0 out, 0.0 L, proof 530.631 of 530.631, f0d27ba8",
		"3521 trials, bill 121.6342, spread 0.1888, squeeze 0.000, 0 out, 0.0 L, proof 2021.675 of 2021.675, bd9b6975",
		"1863 trials, bill 389.9258, spread 0.3019, squeeze 0.199, 0 out, 0.0 L, proof 1735.970 of 1735.970, df514cbd",
	} {
		_, plan := thorough(t, demo.Trips[n])
		assert.Equal(t, want, told(plan), "demo kit %d", n+1)
	}
	for n, want := range []string{
		"141 trials, bill 144.0417, spread 0.0000, squeeze 0.790, 1 out, 0.0 L, proof 16079.813 of 16079.813, 75694285",
		"98 trials, bill 264.8574, spread 0.0000, squeeze 0.818, 1 out, 0.0 L, proof 17094.961 of 17094.961, 417357c5",
		"7708 trials, bill 702.5965, spread 0.0000, squeeze 0.972, 3 out, 3.7 L, proof 6954.972 of 9873.424, 616b3180",
	} {
		task := *taskOf(t, demo.Trips[n])
		task.Pack = task.Pack.Grown(-24)
		assert.Equal(t, want, told(load.Make(&task, load.Options{Seed: 1, Effort: little})), "demo kit %d too short", n+1)
	}
}
