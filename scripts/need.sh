#!/usr/bin/env bash
# Installs what the tests need and this machine lacks: Chromium for the browser journeys, glpsol and cbc as outside
# solvers, GNU units as an outside table of conversions. Says so, and stops with a clear message when it cannot.
set -euo pipefail
declare -A package=([chromium]=chromium [glpsol]=glpk-utils [cbc]=coinor-cbc [units]=units)
missing=()
for program in "${!package[@]}"; do
  command -v "$program" >/dev/null 2>&1 || missing+=("${package[$program]}")
done
[ ${#missing[@]} -eq 0 ] && exit 0
echo "The tests need these Debian packages, which are missing: ${missing[*]}"
fail() {
  echo "They could not be installed ($1). Install them by hand and run make test again:" >&2
  echo "  apt-get install ${missing[*]}" >&2
  exit 1
}
command -v apt-get >/dev/null 2>&1 || fail "there is no apt-get here"
run=()
if [ "$(id -u)" -ne 0 ]; then
  command -v sudo >/dev/null 2>&1 || fail "not root, and there is no sudo"
  run=(sudo -n)
fi
echo "Installing them with apt-get."
"${run[@]}" apt-get update -qq || fail "apt-get update failed"
DEBIAN_FRONTEND=noninteractive "${run[@]}" apt-get install -y -qq "${missing[@]}" >/dev/null || fail "apt-get install failed"
