#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Looks costumes up by size: lines of "size name".
grep -- "^${1:-}" "${WARDROBE:-/dev/null}" || echo "nothing in size ${1:-?}"
