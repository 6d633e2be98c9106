#!/usr/bin/env bash
# Fetches the browser libraries and fonts that Tornister ships, from npm, into web/static/vendor (and axe-core, which
# only the tests use, into e2e/vendor). The result is committed, so building needs neither npm nor a network.
set -euo pipefail
cd "$(dirname "$0")/.."
top=$PWD
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
npm init -y >/dev/null
npm install --ignore-scripts --no-audit --no-fund --save-exact \
  bootstrap@5.3.9 @alpinejs/csp@3.17.4 htmx.org@2 idiomorph@0.8.0 \
  @fontsource/zilla-slab@5.3.0 @fontsource/barlow@5.3.0 axe-core@4.14.1 >/dev/null
m=node_modules v=$top/web/static/vendor
rm -rf "$v" "$top/e2e/vendor"
mkdir -p "$v/fonts" "$v/licences" "$top/e2e/vendor"
# Sourcemap comments would make the browser ask for files that are not shipped.
strip() { sed -e 's#/\*[#@] sourceMappingURL=[^*]*\*/##' -e 's#//[#@] sourceMappingURL=.*##' "$1" >"$2"; }
strip $m/bootstrap/dist/css/bootstrap.min.css "$v/bootstrap.min.css"
strip $m/@alpinejs/csp/dist/cdn.min.js "$v/alpine-csp.min.js"
strip $m/htmx.org/dist/htmx.min.js "$v/htmx.min.js"
strip $m/idiomorph/dist/idiomorph-ext.min.js "$v/idiomorph-ext.min.js"
for w in 500 600 700; do cp $m/@fontsource/zilla-slab/files/zilla-slab-latin-$w-normal.woff2 "$v/fonts/"; done
for w in 400 500 600; do
  for set in latin latin-ext; do cp $m/@fontsource/barlow/files/barlow-$set-$w-normal.woff2 "$v/fonts/"; done
done
cp $m/axe-core/axe.min.js "$top/e2e/vendor/axe.min.js"
for p in bootstrap htmx.org idiomorph @fontsource/zilla-slab @fontsource/barlow axe-core; do
  f=$(ls $m/$p/LICENSE* $m/$p/LICENCE* 2>/dev/null | head -n 1 || true)
  [ -n "$f" ] && cp "$f" "$v/licences/$(echo "$p" | tr -d @ | tr / -).txt"
done
for p in bootstrap @alpinejs/csp htmx.org idiomorph @fontsource/zilla-slab @fontsource/barlow axe-core; do
  node -p "const p=require('./$m/$p/package.json'); p.name+' '+p.version+' '+p.license"
done >"$v/VERSIONS.txt"
cat "$v/VERSIONS.txt"
