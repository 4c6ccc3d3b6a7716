#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Squares a sketch up: every character becomes a square of half a metre.
sketch() { if [ $# -gt 0 ]; then cat "$1"; else printf '%s\n' '..##..' '.####.' '######'; fi; }
sketch "$@" | awk '{ if (length > wide) wide = length; print } END { printf "cloth of %.1f by %.1f metres\n", wide / 2, NR / 2 }'
