#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
echo 'aluminium 2.7 kg/l, steel 7.8 kg/l'
