#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# A linear fade: from, to, seconds.
awk -v from="${1:-0}" -v to="${2:-100}" -v seconds="${3:-5}" 'BEGIN { for (s = 0; s <= seconds; s++) printf "%3d s  %3d %%\n", s, from + (to - from) * s / seconds }'
