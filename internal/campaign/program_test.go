package campaign

import (
	"bufio"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// programFolder is where the program is built when a test asks for it.
var programFolder string

// programFile builds the program once.
var programFile = sync.OnceValues(func() (string, error) {
	path := filepath.Join(programFolder, "tornister")
	out, err := exec.Command("go", "build", "-o", path, "tornister/cmd/tornister").CombinedOutput()
	if err != nil {
		return "", &os.PathError{Op: "build", Path: string(out), Err: err}
	}
	return path, nil
})

func TestMain(m *testing.M) {
	var err error
	if programFolder, err = os.MkdirTemp("", "tornister-campaign-"); err != nil {
		panic(err)
	}
	code := m.Run()
	_ = os.RemoveAll(programFolder)
	os.Exit(code)
}

// server is the program serving a database, as a process of its own.
type server struct {
	cmd     *exec.Cmd
	address string
}

// serve starts the program; before it stands a command that bounds it, such as a shell with a limit.
func serve(t testing.TB, database string, before ...string) *server {
	program, err := programFile()
	require.NoError(t, err)
	arguments := append(
		before,
		program,
		"serve",
		"--address",
		"127.0.0.1:0",
		"--log",
		"nothing",
		"--forecast",
		"",
		"--database",
		database,
	)
	s := &server{cmd: exec.Command(arguments[0], arguments[1:]...)}
	out, err := s.cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, s.cmd.Start())
	t.Cleanup(s.kill)
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if s.address = regexp.MustCompile(`http://[^/]+`).FindString(lines.Text()); s.address != "" {
			return s
		}
	}
	require.Fail(t, "the server printed no address")
	return nil
}

// kill ends the program as a power cut would: at once.
func (s *server) kill() {
	_ = s.cmd.Process.Kill()
	_ = s.cmd.Wait()
}

// client asks without following, so that a change that was acknowledged is seen as one.
func client() *http.Client {
	return &http.Client{Timeout: 30 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 100},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
}
