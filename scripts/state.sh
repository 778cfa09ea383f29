# The folder $state: what this machine keeps for one checkout. An id, a password, where its database lies and answers, logs.
# Nothing a person may have put there is ever deleted or written through: what stands in the way is moved aside.

# aside PATH WHY: moves what stands there beside itself, with the date in its name, and says so. Sets aside_to.
aside() {
  local stamp n=2
  stamp="$(date +%Y-%m-%dT%H-%M-%S)"
  aside_to="$1.aside-$stamp"
  while [ -e "$aside_to" ] || [ -L "$aside_to" ]; do aside_to="$1.aside-$stamp-$n"; n=$((n + 1)); done
  mv -T -- "$1" "$aside_to" 2>/dev/null || fail "$2: $1 cannot be moved aside; move it by hand and start again"
  say "$2: $1 was put aside as $aside_to; nothing in it was changed"
}

# plain FILE: makes way for a plain file of ours.
plain() { if [ -L "$1" ] || { [ -e "$1" ] && [ ! -f "$1" ]; }; then aside "$1" "no plain file"; fi; }

# keep FILE TEXT: writes a small file of ours. kept FILE: what one says, nothing where there is none.
keep() { plain "$1"; (printf '%s\n' "$2" >"$1") 2>/dev/null || fail "$1 cannot be written; make it writable and start again"; }
kept() { if [ -f "$1" ] && [ ! -L "$1" ]; then cat "$1" 2>/dev/null || true; fi; }

# forget NAME...: removes small files of ours.
forget() { local name; for name in "$@"; do [ ! -f "$state/$name" ] || rm -f "$state/$name"; done; }

# empty_log NAME: begins a log of ours anew.
empty_log() { plain "$state/$1"; (: >"$state/$1") 2>/dev/null || fail "$state/$1 cannot be written; make it writable and start again"; }

# make_state: the folder, readable by its owner alone where it is made here, and its id.
make_state() {
  [ -d "$state" ] || mkdir -p -m 700 "$state" 2>/dev/null || fail "$state cannot be written; make it writable, or name another folder in NIMBRET_STATE"
  [ -w "$state" ] || fail "$state cannot be written; make it writable, or name another folder in NIMBRET_STATE"
  state="$(cd "$state" && pwd -P)"
  identify_state
}

is_id() { [[ "$1" =~ ^[0-9a-f]{1,32}$ ]]; }

# The id lies in the folder, so that data are found again after it was renamed. A copy of a folder that is still there has the
# same id and gets one of its own: never do two servers run on one set of data.
identify_state() {
  local first
  state_id="$(kept "$state/id")"
  first="$(kept "$state/place")"
  if is_id "$state_id" && [ -n "$first" ] && [ "$first" != "$state" ] && [ "$(kept "$first/id")" = "$state_id" ] && ! [ "$first" -ef "$state" ]; then
    say "$state is a copy of $first, whose database stays its own: this one gets an id of its own (./nimbret export and import carry projects over)"
    forget db-port db-socket app.pid app.port
    state_id=""
  elif ! is_id "$state_id"; then
    # Before there were ids, the folder's address stood for it.
    state_id="$(printf '%s' "$state" | cksum | cut -d' ' -f1)"
    [ -d "$data_root/$state_id" ] && [ ! -f "$data_root/$state_id/place" ] || [ -d "$state/mariadb" ] || state_id=""
  fi
  is_id "$state_id" || state_id="$(head -c 12 /dev/urandom | od -An -tx1 | tr -d ' \n')"
  [ "$(kept "$state/id")" = "$state_id" ] || keep "$state/id" "$state_id"
  [ "$first" = "$state" ] || keep "$state/place" "$state"
}

# list_data: the data folders of this machine: whose they are, their size, and whether they can be taken up.
list_data() {
  local home id place words
  for home in "$data_root"/*/; do
    [ -d "$home/mariadb" ] || continue
    id="$(basename "$home")"
    place="$(kept "$home/place")"
    if [ -z "$place" ]; then words="of an older version, its folder is not known"
    elif [ "$(kept "$place/id")" = "$id" ]; then words="of $place"
    else words="abandoned: was of $place"; fi
    [[ "$words" == "of /"* ]] || words="$words; ./nimbret demo --take-up $id uses it here"
    printf '%s  %s  %s\n' "$id" "$(du -sh "$home" 2>/dev/null | cut -f1)" "$words"
  done
  for home in "$data_root/$state_id"/*.aside-* "$state"/*.aside-*; do [ ! -e "$home" ] || printf 'put aside  %s  %s\n' "$(du -sh "$home" 2>/dev/null | cut -f1)" "$home"; done
}

# may_take_up ID: ends the start where these data are nobody's to take.
may_take_up() {
  local place
  is_id "$1" && [ -d "$data_root/$1/mariadb" ] || fail "there is no data folder $1 in $data_root; ./nimbret stop --list names those that can be taken up"
  place="$(kept "$data_root/$1/place")"
  if [ -n "$place" ] && [ "$place" != "$state" ] && [ "$(kept "$place/id")" = "$1" ]; then fail "the data folder $1 belongs to $place, which is still there"; fi
}

# take_up ID: an abandoned data folder becomes that of this state; the one it had stays and can be taken up in turn.
take_up() {
  [ "$1" = "$state_id" ] || say "taking up the data of $1; those used here until now are $state_id"
  state_id="$1"
  keep "$state/id" "$1"
  forget db-port db-socket
}
