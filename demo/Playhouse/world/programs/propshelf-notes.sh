#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# A shelf list: propshelf-notes [WORD]
list="${PROPSHELF:-$HOME/propshelf.txt}"
if [ -f "$list" ]; then grep -i -- "${1:-.}" "$list"; else echo "no shelf list at $list yet: one prop a line, then its shelf"; fi
