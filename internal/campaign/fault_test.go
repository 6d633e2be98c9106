package campaign

import (
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/internal/sample"
	"tornister/store"
)

// add adds a trip over the interface; it gives the answer's status and its page.
func add(t *testing.T, s *server, name string) (int, string) {
	answer, err := client().PostForm(s.address+"/trips", url.Values{"name": {name}})
	require.NoError(t, err)
	defer answer.Body.Close()
	page, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	return answer.StatusCode, string(page)
}

// A disk that is full in the middle of the work, here by a limit on the size of files: the change is refused in
// words, nothing that was acknowledged is lost, and with room again it goes on.
func TestADiskThatIsFull(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	path := filepath.Join(t.TempDir(), "kept.db")
	s := serve(t, path, "bash", "-c", `trap "" XFSZ; ulimit -f 600; exec "$@"`, "bounded")
	acknowledged := map[string]bool{}
	var status int
	var page string
	for n := range 400 {
		name := fmt.Sprintf("trip %d", n)
		if status, page = add(t, s, name); status != http.StatusSeeOther {
			break
		}
		acknowledged[name] = true
	}
	require.Equal(t, http.StatusInsufficientStorage, status)
	assert.Contains(t, page, "make room and try again")
	answer, err := client().Get(s.address + "/shelf")
	require.NoError(t, err, "it still answers")
	_ = answer.Body.Close()
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	s.kill()

	there := examined(t, path)
	for name := range acknowledged {
		assert.True(t, there[name], name)
	}
	again := serve(t, path)
	status, _ = add(t, again, "with room")
	assert.Equal(t, http.StatusSeeOther, status)
}

// A database that is replaced or moved away under a running server is not written to.
func TestAFileReplacedUnderTheServer(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	folder := t.TempDir()
	path := filepath.Join(folder, "kept.db")
	s := serve(t, path)
	status, _ := add(t, s, "before")
	require.Equal(t, http.StatusSeeOther, status)
	require.Eventually(
		t,
		func() bool { // in a pause the journal is written into the file, so that the file alone is whole
			journal, err := os.Stat(path + "-wal")
			return err == nil && journal.Size() == 0
		},
		10*time.Second,
		10*time.Millisecond,
	)
	require.NoError(t, os.Rename(path, path+".away"))
	other, err := store.Open(filepath.Join(folder, "other.db"))
	require.NoError(t, err)
	require.NoError(t, other.Close())
	require.NoError(t, os.Rename(filepath.Join(folder, "other.db"), path))
	status, page := add(t, s, "after")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, page, "replaced or moved away")
	require.NoError(t, s.cmd.Process.Signal(syscall.SIGTERM)) // as its page asks for; it takes its journal with it
	_ = s.cmd.Wait()
	assert.Empty(t, examined(t, path), "nothing went into the other file")
	assert.Equal(t, map[string]bool{"before": true}, examined(t, path+".away"), "and nothing is missing in its own")
}

// Files that cannot be served are refused before anything is written, with what can be done.
func TestFilesThatCannotBeServed(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	program, err := programFile()
	require.NoError(t, err)
	good := filepath.Join(t.TempDir(), "good.db")
	kept, err := store.Open(good)
	require.NoError(t, err)
	require.NoError(t, kept.Close())
	whole, err := os.ReadFile(good)
	require.NoError(t, err)
	for name, data := range map[string][]byte{"text": []byte("a letter"), "half": whole[:len(whole)/2],
		"zeros": make([]byte, 8192), "head": append([]byte("SQLite format 3\x00"), make([]byte, 4000)...)} {
		path := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(path, data, 0o600))
		cmd := exec.Command(program, "serve", "--address", "127.0.0.1:0", "--database", path)
		out, err := cmd.CombinedOutput()
		assert.Error(t, err, name)
		assert.Regexp(t, "something else|damaged", string(out), name)
		after, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, data, after, name)
	}
}
