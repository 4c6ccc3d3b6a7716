#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# One hang a line: bar, kilograms, what hangs there.
plan="${1:-}"
hangs() { if [ -n "$plan" ]; then cat "$plan"; else printf '%s\n' '1 120 house curtain' '4 85 forest cloth' '4 40 moon' '9 210 bridge'; fi; }
hangs | awk '{ load[$1] += $2; $1 = $1 } { print "bar " $1 ": " $2 " kg" } END { for (bar in load) if (load[bar] > 200) print "bar " bar " carries " load[bar] " kg, above the safe 200" }'
