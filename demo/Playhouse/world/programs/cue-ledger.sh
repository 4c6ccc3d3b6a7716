#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Reads cues as "seconds name" and tells the waits between them.
cues() { if [ $# -gt 0 ]; then cat "$1"; else printf '%s\n' '0 house to half' '12 house out' '15 tabs' '47 storm'; fi; }
cues "$@" | sort -n | awk '{ at = $1; $1 = ""; if (NR > 1) printf "%6d s  wait %3d s %s\n", at, at - before, $0; else printf "%6d s            %s\n", at, $0; if (NR > 1 && at - before > longest) longest = at - before; before = at } END { print "longest wait: " longest " s" }'
