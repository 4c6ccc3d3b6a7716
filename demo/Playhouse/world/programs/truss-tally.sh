#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Two couplers and one safety for every bar named.
echo "$# bars: $(($# * 2)) couplers, $# safeties"
