package bundle

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Drills get ids of their own, keep what a later version wrote into them, and leave nothing behind when they are
// gone.
func TestOwnDrills(t *testing.T) {
	t.Parallel()
	d := Doc{"trip": map[string]any{"drills": []any{map[string]any{"id": "own-1", "name": "Wind",
		"items": []any{"shell"}, "limit_s": 30, "mood": "calm"}}}}
	require.NoError(t, d.AddDrill(Drill{Name: "Hail", Items: []string{"shell", "hat"}, LimitS: 45, Rain: true}))
	own := d.Drills()
	require.Len(t, own, 2)
	assert.Equal(t, "own-2", own[1].ID)
	assert.True(t, d.OwnDrills()[1].Rain)
	assert.Equal(t, "calm", d.Object("trip")["drills"].([]any)[0].(map[string]any)["mood"])
	require.NoError(t, d.RemoveDrill("own-1"))
	require.NoError(t, d.RemoveDrill("own-9"))
	assert.Equal(t, []string{"shell", "hat"}, d.Drills()[0].Items)
	require.NoError(t, d.RemoveDrill("own-2"))
	assert.NotContains(t, d.Object("trip"), "drills")
}

func TestRealTimes(t *testing.T) {
	t.Parallel()
	d := Doc{}
	assert.Empty(t, d.Times()["dusk"])
	require.NoError(t, d.AddTime("dusk", 12.5))
	require.NoError(t, d.AddTime("dusk", 11))
	assert.Equal(t, []float64{12.5, 11}, d.Times()["dusk"])
	require.NoError(t, d.ForgetTimes("rain"))
	require.NoError(t, d.ForgetTimes("dusk"))
	assert.NotContains(t, d.Object("trip"), "stopwatch")
	assert.Nil(t, Doc{"trip": map[string]any{"stopwatch": "soon"}}.Times(), "what is no list of times is none")
}

func TestForecastIsKept(t *testing.T) {
	t.Parallel()
	d := Doc{}
	assert.Nil(t, d.Forecast())
	require.NoError(t, d.KeepForecast(&Forecast{Source: "stand-in",
		Days: []ForecastDay{{Date: "2026-09-04", LowC: 3, HighC: 14, Rain: 0.2}}}))
	assert.Equal(t, 14.0, d.Forecast().Days[0].HighC)
	require.NoError(t, d.KeepForecast(nil))
	assert.Nil(t, d.Forecast())
}
