#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Begins with the rain that comes with it.
rain="$(dirname "$(readlink -f "$0")")/../share/thundersheet/rain.raw"
# Writes a wave file of 8-bit noise at 8 kHz: thundersheet FILE SECONDS
file="${1:?a file to write}"; seconds="${2:-2}"
samples=$((seconds * 8000)); total=$((samples + 36))
le32() { printf "\\$(printf %03o $(($1 & 255)))\\$(printf %03o $((($1 >> 8) & 255)))\\$(printf %03o $((($1 >> 16) & 255)))\\$(printf %03o $((($1 >> 24) & 255)))"; }
{ printf RIFF; le32 "$total"; printf 'WAVEfmt '; le32 16; printf '\001\000\001\000'; le32 8000; le32 8000; printf '\001\000\010\000data'; le32 "$samples"; cat "$rain" /dev/urandom | head -c "$samples"; } > "$file"
echo "$file: $seconds s of thunder"
