#!/bin/sh
# @NAME@ @VERSION@
set -eu
if [ "${1:-}" = --version ]; then echo '@NAME@ @VERSION@'; exit; fi
# Lists files with their digests, or checks such a list.
case "${1:-}" in --check) sha256sum -c "${2:?a list}" ;; '') echo 'files, or --check LIST' >&2; exit 2 ;; *) sha256sum "$@" ;; esac
