#!/bin/sh
# Installs Debian's Chromium and the fonts the browser tests and pictures use, when missing.
set -eu
command -v chromium-headless-shell >/dev/null 2>&1 && exit 0
as=""
[ "$(id -u)" = 0 ] || as="sudo"
export DEBIAN_FRONTEND=noninteractive
$as apt-get update -qq
fonts="fonts-liberation fonts-nanum fonts-ipafont-gothic"
$as apt-get install -y -qq --no-install-recommends chromium-headless-shell $fonts && exit 0
command -v chromium >/dev/null 2>&1 && exit 0 # an older Debian has no such package
$as apt-get install -y -qq --no-install-recommends chromium $fonts
