package main

import (
	"crypto/tls"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/internal/campaign"
	"tornister/internal/sample"
	"tornister/store"
)

// startWith runs the server with some arguments and gives all that it printed until it was ready.
func startWith(t *testing.T, arguments ...string) (printed string, stop func()) {
	server := program(append([]string{"serve", "--log", "errors"}, arguments...)...)
	out, err := server.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, server.Start())
	stop = func() { _ = server.Process.Kill(); _ = server.Wait() }
	t.Cleanup(stop)
	buffer := make([]byte, 1<<16)
	for !strings.Contains(printed, "Ctrl-C") {
		n, err := out.Read(buffer)
		require.NoError(t, err, printed)
		printed += string(buffer[:n])
	}
	return printed, stop
}

// Another address than loopback is served only with a password or an explicit word.
func TestServingOthersNeedsAWord(t *testing.T) {
	t.Parallel()
	database := filepath.Join(t.TempDir(), "kept.db")
	for _, address := range []string{"0.0.0.0:0", ":0", "[::]:0", "192.0.2.1:7352", "example.com:80", "nonsense"} {
		code, out, problems := run(t, "", "serve", "--database", database, "--address", address)
		assert.Equal(t, 2, code, address)
		assert.Empty(t, out, address)
		assert.Regexp(t, `no password is set|give host:port`, problems, address)
	}
	assert.NoFileExists(t, database, "nothing was opened")

	printed, stop := startWith(t, "--database", database, "--address", "0.0.0.0:0", "--open")
	assert.Contains(t, printed, "WARNING: it is open to everybody")
	found := regexp.MustCompile(`http://\S+`).FindString(printed)
	assert.NotContains(t, found, "0.0.0.0", "the address that is printed can be opened")
	page, err := http.Get(found)
	require.NoError(t, err)
	body, _ := io.ReadAll(page.Body)
	_ = page.Body.Close()
	assert.Equal(t, http.StatusOK, page.StatusCode)
	assert.Contains(t, string(body), "no password is asked for")
	stop()

	for _, bad := range []string{"short", "", strings.Repeat("x", 73)} {
		code, _, problems := run(t, bad+"\n", "password", "--database", database)
		assert.Equal(t, 2, code)
		assert.Contains(t, problems, "Nothing was set")
	}
	code, _, problems := run(t, "dry socks first\n", "password", "--database", database)
	require.Zero(t, code, problems)
	info, err := os.Stat(passwordFile(database))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	code, _, problems = run(t, "", "serve", "--database", database, "--address", "0.0.0.0:0", "--open")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "one is set")
	printed, stop = startWith(t, "--database", database, "--address", "0.0.0.0:0")
	assert.Contains(t, printed, "travels unencrypted")
	stay := func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	page, err = (&http.Client{CheckRedirect: stay}).Get(regexp.MustCompile(`http://\S+`).FindString(printed))
	require.NoError(t, err)
	_ = page.Body.Close()
	assert.Equal(t, http.StatusSeeOther, page.StatusCode)
	assert.Contains(t, page.Header.Get("Location"), "/sign-in")
	stop()
	code, _, _ = run(t, "", "password", "--remove", "--database", database)
	assert.Zero(t, code)
	assert.NoFileExists(t, passwordFile(database))
}

func TestServingOverTLS(t *testing.T) {
	t.Parallel()
	database := filepath.Join(t.TempDir(), "kept.db")
	var prints []string
	for range 2 {
		printed, stop := startWith(t, "--database", database, "--address", "127.0.0.1:0", "--tls")
		prints = append(prints, regexp.MustCompile(`fingerprint: (.*)`).FindStringSubmatch(printed)[1])
		client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{InsecureSkipVerify: true}}}
		page, err := client.Get(regexp.MustCompile(`https://\S+`).FindString(printed))
		require.NoError(t, err)
		_ = page.Body.Close()
		assert.Equal(t, http.StatusOK, page.StatusCode)
		require.NotEmpty(t, page.TLS.PeerCertificates)
		assert.NoError(t, page.TLS.PeerCertificates[0].VerifyHostname("127.0.0.1"))
		stop()
	}
	assert.Equal(t, prints[0], prints[1], "the same certificate after a restart, so that browsers know it again")
	info, err := os.Stat(database + ".key.pem")
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	code, _, problems := run(t, "", "serve", "--database", database, "--certificate", database)
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "give both")
}

func TestACertificateIsMadeAnewInTime(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC)
	certificate, key, err := newKeyPair([]string{"192.0.2.7", "kit.local"}, now)
	require.NoError(t, err)
	pair, err := tls.X509KeyPair(certificate, key)
	require.NoError(t, err)
	assert.True(t, stillGood(pair, []string{"192.0.2.7", "kit.local"}, now))
	assert.False(t, stillGood(pair, []string{"192.0.2.8"}, now), "another address")
	assert.False(t, stillGood(pair, nil, now.Add(validFor)), "over")
}

// Edits that a running server has acknowledged are never restored away.
func TestRestoreUnderARunningServer(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	database, saved := filepath.Join(folder, "kept.db"), filepath.Join(folder, "saved.db")
	code, _, problems := run(t, "", "import", "--database", database, write(t, "walk.json", string(demo.LoneWalker)))
	require.Zero(t, code, problems)
	code, _, problems = run(t, "", "backup", "--database", database, saved)
	require.Zero(t, code, problems)
	_, stop := startWith(t, "--database", database, "--address", "127.0.0.1:0")
	require.Eventually(t, func() bool { return len(store.Copies(database)) == 1 }, 20*time.Second, 20*time.Millisecond,
		"a copy for the day is kept")
	code, out, problems := run(t, "", "restore", "--database", database, saved)
	assert.Equal(t, exitOther, code)
	assert.Empty(t, out)
	assert.Contains(t, problems, "stop it first")
	code, out, _ = run(t, "", "doctor", "--database", database)
	assert.Zero(t, code, out)
	assert.Contains(t, out, "A program has it open")
	stop()
	code, _, problems = run(t, "", "restore", "--database", database, saved)
	assert.Zero(t, code, problems)
}

func TestRemovingOnTheCommandLine(t *testing.T) {
	t.Parallel()
	database := filepath.Join(t.TempDir(), "kept.db")
	code, _, problems := run(t, "", "import", "--database", database, write(t, "walk.json", string(demo.LoneWalker)))
	require.Zero(t, code, problems)
	code, out, _ := run(t, "", "remove", "--database", database, "--trip", "1")
	assert.Zero(t, code)
	assert.Contains(t, out, "Orlava, three nights")
	code, out, problems = run(t, "", "remove", "--database", database, "--trip", "1")
	assert.Equal(t, 2, code)
	assert.Empty(t, out)
	assert.Contains(t, problems, "no such trip")
}

// The doctor finds what is wrong with a file, in words, and says what can be done.
func TestTheDoctorSaysWhatIsWrong(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	database := filepath.Join(folder, "kept.db")
	code, _, problems := run(t, "", "import", "--database", database, write(t, "walk.json", string(demo.LoneWalker)))
	require.Zero(t, code, problems)
	whole, err := os.ReadFile(database)
	require.NoError(t, err)
	place := func(name string, data []byte) string {
		path := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(path, data, 0o600))
		return path
	}
	torn := append([]byte{}, whole...)
	for i := 9000; i < 30000; i++ {
		torn[i] = 0x5a
	}
	for name, c := range map[string]struct {
		path, word string
		code       int
	}{
		"well":    {database, "are sound", 0},
		"nothing": {filepath.Join(folder, "none.db"), "no such file", 1},
		"foreign": {place("letter.txt", []byte("Dear instructor")), "something else", 1},
		"torn":    {place("torn.db", torn), "restore the newest copy", 1},
		"half":    {place("half.db", whole[:len(whole)/2]), "restore the newest copy", 1},
	} {
		before, _ := os.ReadFile(c.path)
		code, out, _ := run(t, "", "doctor", "--database", c.path)
		assert.Equal(t, c.code, code, "%s: %s", name, out)
		assert.Contains(t, out, c.word, name)
		after, _ := os.ReadFile(c.path)
		assert.Equal(t, before, after, "it changes nothing")
	}
	_, err = store.Open(database)
	assert.NoError(t, err)
}

// slack is what a machine that is busy with other tests may add; docs/hardening.md has the times of an idle one.
const slack = 2 * time.Second

// --seconds and first answers are promises, also for a kit that no one packs. Before, these took up to a minute and a
// half.
func TestAnswersComeInTime(t *testing.T) {
	for _, name := range []string{"500 boxes in 3 L", "500 boxes in 300 L"}[:min(2, sample.Of(t, 1, 2))] {
		file := write(t, "boxes.json", string(campaign.HostileBundles()[name].Data))
		asked := map[time.Duration][]string{2 * time.Second: {"plan", "--quick", file}}
		if !sample.Small() {
			asked[3*time.Second] = []string{"plan", "--seconds", "2", file}
			asked[2001*time.Millisecond] = []string{"shrink", file}
		}
		for most, arguments := range asked {
			start := time.Now()
			code, _, problems := run(t, "", arguments...)
			took := time.Since(start)
			assert.Contains(t, []int{0, 3}, code, problems)
			assert.Less(t, took, most+slack, "%s: %v", name, arguments)
		}
	}
}
