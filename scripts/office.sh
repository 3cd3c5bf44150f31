#!/bin/sh
# Installs what the office tests hold our files to: LibreOffice, poppler, qpdf. Needs root or sudo.
set -e
export DEBIAN_FRONTEND=noninteractive
for tool in soffice pdftotext qpdf; do
  command -v $tool >/dev/null 2>&1 || missing=1
done
[ -z "$missing" ] && exit 0
as=""
[ "$(id -u)" = 0 ] || as=sudo
$as apt-get update -qq
$as apt-get install -y -qq --no-install-recommends libreoffice-calc poppler-utils qpdf >/dev/null
