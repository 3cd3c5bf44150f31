#!/bin/sh
# Runs every fuzz target in turn, each for its share of the time given, and goes on where it was broken off: targets that are
# done in this round stand in build/fuzz/done. What was found interesting is kept in build/fuzz/corpus, from one round to the next;
# what fails is kept by go test beside the package, in testdata/fuzz.
# usage: scripts/fuzz.sh TIME   such as 1h, 30m, 600s
set -eu
time=${1:-1h}
n=${time%[hms]}
case $time in *h) all=$((n * 3600)) ;; *m) all=$((n * 60)) ;; *) all=$n ;; esac
mkdir -p build/fuzz/corpus
done=build/fuzz/done
touch $done
targets=$(grep -rln '^func Fuzz' --include='*_test.go' internal cmd | while read -r file; do
	sed -n 's/^func \(Fuzz[A-Za-z]*\).*/\1/p' "$file" | sed "s|^|./$(dirname "$file") |"
done | sort)
count=$(echo "$targets" | wc -l)
each=$((all / count))
[ "$each" -ge 5 ] || each=5
failed=0
echo "$targets" >build/fuzz/targets
while read -r pkg target; do
	if grep -qx "$pkg $target" $done; then
		echo "$pkg $target: done before"
		continue
	fi
	echo "$pkg $target, $each s"
	kept="build/fuzz/corpus/$pkg/$target"
	cache="$(go env GOCACHE)/fuzz/$(go list "$pkg")/$target"
	if [ -d "$kept" ]; then
		mkdir -p "$cache"
		cp -n "$kept"/* "$cache"/ 2>/dev/null || true
	fi
	if ! go test "$pkg" -vet=off -run '^$' -fuzz "^$target\$" -fuzztime "${each}s" >build/fuzz/said 2>&1 </dev/null; then
		failed=1
		echo "FAILED"
		tail -n 30 build/fuzz/said
	fi
	grep 'execs:' build/fuzz/said | tail -n 1 || true
	if [ -d "$cache" ]; then
		mkdir -p "$kept"
		cp -n "$cache"/* "$kept"/ 2>/dev/null || true
	fi
	echo "$pkg $target" >>$done
done <build/fuzz/targets
rm -f $done
exit $failed
