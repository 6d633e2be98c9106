#!/usr/bin/env bash
# Tries to break the program at length: mutated bundles, kills, a crowd, faults, ten million texts, then every
# fuzz target. Prints counts and seeds.
#   scripts/campaign.sh            everything, about three quarters of an hour on two cores
#   scripts/campaign.sh fuzz       only one part: mutants, kills, crowd, faults, havoc, calibration or fuzz
# TORNISTER_MINUTES ends the calibration after so many, TORNISTER_SEED begins elsewhere, TORNISTER_TRY makes one mutant
# again. What fuzzing finds is kept in testdata/fuzz beside the target and is tried again by every `go test`.
set -euo pipefail
cd "$(dirname "$0")/.."
part=${1:-all}
run() { TORNISTER_CAMPAIGN=full go test -count=1 -timeout 120m -v -run "$1" ./internal/campaign | grep -v '^=== '; }
[[ $part == all || $part == mutants ]] && run '^TestMutatedBundles$'
[[ $part == all || $part == kills ]] && run '^TestKillsUnderWriters$'
[[ $part == all || $part == crowd ]] && run '^TestACrowd$'
[[ $part == all || $part == faults ]] && run '^(TestADiskThatIsFull|TestAFileReplacedUnderTheServer|TestFilesThatCannotBeServed)$'
[[ $part == all || $part == havoc ]] && run '^(TestHavoc|TestHostileFiles)$'
[[ $part == all || $part == calibration ]] && run '^TestCalibration$'
[[ $part == all || $part == fuzz ]] || exit 0
seconds=${TORNISTER_FUZZ_SECONDS:-60} # each
while read -r package target; do
  echo "== $package $target"
  go test -run '^$' -fuzz "^$target\$" -fuzztime "${seconds}s" "./$package" | tail -n 3
done <<TARGETS
core/unit FuzzQuantity
core/kit FuzzQuick
core/trail FuzzTime
web FuzzLocalPath
web FuzzRequest
weather FuzzAnswer
bundle FuzzRead
bundle/sheet FuzzRead
TARGETS
