// Command tornister fits a kit into a pack: on the command line with plan and check, in the browser with serve.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

// Exit codes of the program.
const (
	exitOther   = 1
	exitBadArgs = 2
	exitNoFit   = 3
)

// exit carries the code with which the program ends; message is what goes to standard error.
type exit struct {
	code    int
	message string
}

func (e *exit) Error() string { return e.message }

func main() {
	root := &cobra.Command{
		Use:           "tornister",
		Short:         "Does this kit go into this pack, in what order, and will it ride well?",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.CompletionOptions.HiddenDefaultCmd = true
	root.AddCommand(planCommand(), checkCommand(), cardCommand(), weighCommand(), daysCommand(), shareCommand(),
		shrinkCommand(), serveCommand(), demoCommand(), importCommand(), exportCommand(), backupCommand(), restoreCommand(),
		removeCommand(), doctorCommand(), passwordCommand(), forecastCommand(), scaleCommand(), licencesCommand(),
		versionCommand())
	root.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return &exit{exitBadArgs, err.Error()} })
	err := root.ExecuteContext(context.Background())
	if err == nil {
		return
	}
	code := exitOther
	if ended := new(exit); errors.As(err, &ended) {
		code = ended.code
	}
	if err.Error() != "" {
		fmt.Fprintln(os.Stderr, err)
	}
	os.Exit(code)
}
