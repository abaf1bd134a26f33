#!/usr/bin/env bash
# Times whole processes over the star of lantrel-bench/worlds/counts with so many rows of its fact table
# (default: 1,000,000 and 10,000,000; 100,000,000 take a quarter of an hour to make, and 10 GB). Java gets
# 64 MB, whatever the number of rows; the memory told is that of the process, most of it the engine's.
set -eu
home=$(cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/.." && pwd)
counts=$home/lantrel-bench/worlds/counts
bench=$home/lantrel-bench/target/classes
lib=$home/lantrel-cli/target/lib
[ -d "$bench" ] || (cd "$home" && mvn -q -B -DskipTests package -pl lantrel-bench,lantrel-cli -am)
"$home/lantrel" kinds >/dev/null # builds, and makes the class archive
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT

sed -n 3p "$counts/queries.sql" >"$made/three.sql"
sed -n 5p "$counts/queries.sql" >"$made/five.sql"
sed "s/m.name = 'net'/m.code = 'N'/" "$made/three.sql" >"$made/other.sql"
printf -- '-- claim: every place appears\n-- claim: total of n is total of heads.count\n%s\n' \
  "SELECT p.name, SUM(h.count) AS n FROM heads h JOIN place p ON p.id = h.place_id GROUP BY p.name;" \
  >"$made/claims.sql"

run() { # rows, command, arguments
  local out
  out=$(JAVA_TOOL_OPTIONS=-Xmx64m /usr/bin/time -f '%e %M' "$home/lantrel" "$2" --db "jdbc:duckdb:$made/$1.duckdb" \
    --memory 6G --timeout 3000 "${@:3}" 2>&1 >/dev/null | tail -1)
  printf '%12s  %-30s %8s s %8d MB\n' "$1" "$2 ${3#"$made/"} ${4+${4#"$made/"}}" "${out% *}" "$((${out#* } / 1024))"
}

for rows in ${*:-1000000 10000000}; do
  java -cp "$bench:$lib/*" io.lantrel.bench.World "$counts" "$made/$rows.duckdb" "$rows"
  run "$rows" survey --rows 0
  run "$rows" check "$made/five.sql"
  run "$rows" ledger "$made/five.sql"
  run "$rows" ledger "$made/five.sql" --about=100000
  run "$rows" compare "$made/three.sql" "$made/other.sql"
  run "$rows" verify "$made/claims.sql"
  rm "$made/$rows.duckdb"
done
