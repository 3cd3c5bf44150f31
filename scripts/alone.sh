#!/bin/sh
# Prints what go test is told to run the tests by that go through much and do one thing at a time, without
# the race detector: those that call golden.Alone, and their packages.
set -eu
cd "$(dirname "$0")/.."
files=$(grep -rl --include="*_test.go" "golden\.Alone(t)" cmd internal scripts)
names=$(awk '/^func Test/ {name = $2; sub(/\(.*/, "", name)} /golden\.Alone\(t\)/ {print name}' $files | paste -sd'|' -)
echo "-run ^($names)\$ $(for f in $files; do echo "./$(dirname "$f")"; done | sort -u | paste -sd' ' -)"
