package bundle

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func provided(t *testing.T) Doc {
	b, err := Read([]byte(`{"format":"tornister","version":1,
		"pack":{"id":"p","zones":[{"id":"body","kind":"body","volume_l":40}]},
		"items":[{"id":"pot","kind":"pot"}],
		"trip":{"start":"2026-09-04T13:00","end":"2026-09-06T11:30","provide":true},
		"method":{"food":"meals","water":"bottles"}}`))
	require.NoError(t, err)
	require.NoError(t, b.Doc.Follow())
	return b.Doc
}

func following(d Doc, key string) map[string]any {
	for _, it := range d.List("items") {
		if it["follows"] == key {
			return it
		}
	}
	return nil
}

func TestLinesFollowTheTripUntilFixed(t *testing.T) {
	t.Parallel()
	d := provided(t)
	assert.EqualValues(t, "2", following(d, "dinner")["count"])
	gas := following(d, "gas")
	require.NotNil(t, gas)
	gas["mass_g"], gas["fixed"] = Number(500), true
	d.Object("trip")["end"] = "2026-09-07T11:30"
	require.NoError(t, d.Follow())
	assert.EqualValues(t, "3", following(d, "dinner")["count"], "a night more, a dinner more")
	assert.EqualValues(t, "500", following(d, "gas")["mass_g"], "what is fixed stays")
	d.Object("method")["food"] = "mass"
	require.NoError(t, d.Follow())
	assert.Nil(t, following(d, "dinner"), "another school, other lines")
	assert.NotNil(t, following(d, "food-1"))
	d.Object("trip")["without"] = []any{"water-bottles"}
	require.NoError(t, d.RemoveItem(following(d, "water-bottles")["id"].(string)))
	require.NoError(t, d.Follow())
	assert.Nil(t, following(d, "water-bottles"))
	before := d.Clone()
	require.NoError(t, d.Follow())
	assert.Equal(t, before, d, "following twice changes nothing more")
	_, err := FromDoc(d)
	assert.NoError(t, err)
}

func TestTripsThatCannotBe(t *testing.T) {
	t.Parallel()
	for trip, at := range map[string]string{
		`{"start":"2026-09-06T13:00","end":"2026-09-04T11:30"}`:          "/trip/end",
		`{"start":"2026-09-31T13:00","end":"2026-10-04T11:30"}`:          "/trip/start",
		`{"start":"2026-09-04T13:00","end":"2026-09-06T11:30","days":7}`: "/trip/days",
		`{"start":"2026-09-04T13:00","end":"3026-09-06T11:30"}`:          "/trip/end",
		`{"legs":[{"day":1,"km":300}]}`:                                  "/trip/legs/0/km",
		`{"days":2,"legs":[{"day":2,"km":5},{"day":1,"km":5}]}`:          "/trip/legs/1/day",
		`{"days":2,"legs":[{"day":3,"km":5}]}`:                           "/trip/legs/0/day",
		`{"legs":[{"day":1,"km":5,"climb_m":9000}]}`:                     "/trip/legs/0/climb_m",
		`{"start":"tomorrow"}`:                                           "/trip/start",
	} {
		_, err := Read([]byte(`{"format":"tornister","version":1,"pack":{"id":"p","zones":[{"id":"body","kind":"body","volume_l":40}]},"items":[],"trip":` + trip + `}`))
		var problems Problems
		require.ErrorAs(t, err, &problems, trip)
		assert.Equal(t, at, problems[0].Pointer, trip)
		assert.NotEmpty(t, problems[0].Mend)
	}
}
