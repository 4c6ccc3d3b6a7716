#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# The plan of the house: rows, seats a row, sold as row:seat.
awk -v rows="${1:-4}" -v seats="${2:-8}" -v sold=" ${3:-2:3 2:4} " 'BEGIN { for (r = 1; r <= rows; r++) { printf "%c ", 64 + r; for (s = 1; s <= seats; s++) printf index(sold, " " r ":" s " ") ? "x" : "o"; print "" } }'
