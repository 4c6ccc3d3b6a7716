#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Numbers the lines of a script for notes in the margin.
cat "${1:-/dev/stdin}" | awk '{ printf "%4d | %s\n", NR, $0 }'
