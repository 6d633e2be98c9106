#!/usr/bin/env bash
# Tries to break the program at length: mutated bundles, kills, a crowd, faults, then every fuzz target. Prints counts and seeds.
#   scripts/campaign.sh            everything, about an hour on two cores
#   scripts/campaign.sh fuzz       only one part: mutants, kills, crowd, faults or fuzz
# TORNISTER_SEED begins elsewhere, TORNISTER_TRY makes one mutant again. What fuzzing finds is kept in testdata/fuzz beside the
# target and is tried again by every `go test`.
set -euo pipefail
cd "$(dirname "$0")/.."
part=${1:-all}
run() { TORNISTER_CAMPAIGN=full go test -count=1 -timeout 120m -v -run "$1" ./internal/campaign | grep -v '^=== '; }
[[ $part == all || $part == mutants ]] && run '^TestMutatedBundles$'
[[ $part == all || $part == kills ]] && run '^TestKillsUnderWriters$'
[[ $part == all || $part == crowd ]] && run '^TestACrowd$'
[[ $part == all || $part == faults ]] && run '^(TestADiskThatIsFull|TestAFileReplacedUnderTheServer|TestFilesThatCannotBeServed)$'
[[ $part == all || $part == fuzz ]] || exit 0
share=${TORNISTER_FUZZ_SHARE:-100} # in a hundred of the executions below
total=0
while read -r package target executions; do
  executions=$((executions * share / 100))
  echo "== $package $target: $executions executions"
  go test -run '^$' -fuzz "^$target\$" -fuzztime "${executions}x" "./$package" | tail -n 3
  total=$((total + executions))
done <<TARGETS
core/unit FuzzQuantity 3500000
core/kit FuzzQuick 2500000
core/trail FuzzTime 2000000
web FuzzLocalPath 1500000
weather FuzzAnswer 400000
bundle FuzzRead 120000
bundle/sheet FuzzRead 100000
web FuzzRequest 20000
TARGETS
echo "== $total executions in all"
