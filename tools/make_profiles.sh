#!/usr/bin/env bash
# Makes the press profiles that ship in data/profiles from free characterisation data.
# Needs Debian's packages argyll and icc-profiles-free; takes about three minutes a profile.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
out=$here/src/half_fold/data/profiles
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
source_dir=/usr/share/color/icc
rights='No copyright claimed by the maker of this profile; see LICENSE.txt for the characterisation data.'

profile() { # profile NAME DATA INK_LIMIT DESCRIPTION
    cp "$source_dir/$2.ti3" "$work/$1.ti3"
    (cd "$work" && colprof -v -qm -kp 0 .2 1 .95 .65 -l"$3" -L95 -S "$source_dir/sRGB.icm" \
        -cmt -dpp -nc -D "$4" -C "$rights" -O "$1.icc" "$1")
    cp "$work/$1.icc" "$out/"
}

[ -e "$source_dir/sRGB.icm" ] || source_dir_rgb=$source_dir/sRGB.icc
if [ -n "${source_dir_rgb:-}" ]; then
    mkdir -p "$work/icc" && cp "$source_dir"/*.ti3 "$work/icc/" && cp "$source_dir_rgb" "$work/icc/sRGB.icm"
    source_dir=$work/icc
fi
profile half-fold-coated FOGRA39L 300 'Half Fold coated (FOGRA39L data)'
profile half-fold-uncoated FOGRA29L 274 'Half Fold uncoated (FOGRA29L data)'
cp "$source_dir/sRGB.icm" "$out/srgb.icc"
