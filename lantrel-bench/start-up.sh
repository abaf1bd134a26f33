#!/usr/bin/env bash
# Times whole processes: check on each embedded engine, and a bare program that opens the engine, loads
# the same data and runs the query. Prints medians of RUNS runs (default 9) and their ratio.
set -eu
home=$(cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/.." && pwd)
runs=${RUNS:-9}
data=$home/lantrel-examples/river-watch
query=$data/queries/capacity.sql
lib=$home/lantrel-cli/target/lib
bench=$home/lantrel-bench/target/classes
[ -d "$bench" ] || (cd "$home" && mvn -q -B -DskipTests package -pl lantrel-bench,lantrel-cli -am)
"$home/lantrel" check --data "$data" "$query" >/dev/null || true # builds, and makes the class archive

took() { # milliseconds of one run
  local begun=$EPOCHREALTIME
  "$@" >/dev/null 2>&1 || true
  local ended=$EPOCHREALTIME
  echo $(((${ended/./} - ${begun/./}) / 1000))
}

median() { sort -n "$1" | sed -n "$(((runs + 1) / 2))p"; }

bare() {
  java -XX:TieredStopAtLevel=1 -XX:+UseSerialGC -cp "$bench:$lib/*" \
    io.lantrel.bench.BareProgram "$1" "$data" "$query"
}

printf '%-8s %10s %10s %6s\n' engine 'check ms' 'bare ms' ratio
for engine in ${ENGINES:-duckdb sqlite h2 hsqldb}; do
  case $engine in
    duckdb) url=jdbc:duckdb: ;;
    sqlite) url=jdbc:sqlite::memory: ;;
    h2) url=jdbc:h2:mem:bare ;;
    hsqldb) url=jdbc:hsqldb:mem:bare ;;
  esac
  checks=$(mktemp) bares=$(mktemp)
  # By turns, since the machine may be faster now than a minute ago.
  for _ in $(seq "$runs"); do
    took "$home/lantrel" check --data "$data" --engine "$engine" "$query" >>"$checks"
    took bare "$url" >>"$bares"
  done
  check=$(median "$checks") alone=$(median "$bares")
  rm -f "$checks" "$bares"
  printf '%-8s %10s %10s %6s\n' "$engine" "$check" "$alone" "$(awk "BEGIN { printf \"%.2f\", $check / $alone }")"
done
