#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Runs a command once the word has been given back.
printf 'Heads! Say "heads" to go: ' >&2
read -r word
[ "$word" = heads ] || { echo 'held' >&2; exit 1; }
if [ $# -gt 0 ]; then exec "$@"; fi
