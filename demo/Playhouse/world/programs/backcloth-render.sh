#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Shades by light: warm makes darker, cold makes lighter.
light="${1:-warm}"
case "$light" in warm) tr '#.' '@:' ;; cold) tr '#.' '+ ' ;; *) echo "warm or cold, not $light" >&2; exit 2 ;; esac < "${2:-/dev/stdin}"
