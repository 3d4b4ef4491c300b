#!/usr/bin/env bash
# Gathers the open font families that ship in data/fonts from the npm registry, each with its licence.
# Fonts that come compressed are unpacked to plain sfnt files and are otherwise unchanged.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
out=$here/src/half_fold/data/fonts
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
npm pack --silent @expo-google-fonts/eb-garamond@0.4.3 @expo-google-fonts/young-serif@0.4.0 \
    @expo-google-fonts/amiri@0.4.1 \
    @expo-google-fonts/archivo@0.4.2 @expo-google-fonts/bebas-neue@0.4.1 @expo-google-fonts/syncopate@0.4.1 \
    @expo-google-fonts/zilla-slab@0.4.1 @expo-google-fonts/bodoni-moda@0.4.2 @expo-google-fonts/alfa-slab-one@0.4.1 \
    @expo-google-fonts/nunito@0.4.2 @expo-google-fonts/black-ops-one@0.4.1 @expo-google-fonts/pacifico@0.4.1 \
    @expo-google-fonts/caveat-brush@0.4.1 @expo-google-fonts/unifrakturcook@0.4.1 @expo-google-fonts/ibm-plex-mono@0.4.1 \
    @ibm/plex-sans@1.1.0 @ibm/plex-sans-condensed@2.0.0 >/dev/null
for archive in *.tgz; do mkdir "${archive%.tgz}" && tar xzf "$archive" -C "${archive%.tgz}"; done

garamond=expo-google-fonts-eb-garamond-0.4.3/package
mkdir -p "$out/eb-garamond" "$out/young-serif" "$out/amiri" "$out/plex-sans" "$out/plex-sans-condensed"
for style in 400Regular 400Regular_Italic 600SemiBold 700Bold 700Bold_Italic; do
    cp "$garamond/$style/EBGaramond_$style.ttf" "$out/eb-garamond/"
done
cp $garamond/LICENSE_FONT "$out/eb-garamond/LICENSE.txt"
cp expo-google-fonts-young-serif-0.4.0/package/400Regular/YoungSerif_400Regular.ttf "$out/young-serif/"
cp expo-google-fonts-young-serif-0.4.0/package/LICENSE_FONT "$out/young-serif/LICENSE.txt"
for style in 400Regular 700Bold; do
    cp "expo-google-fonts-amiri-0.4.1/package/$style/Amiri_$style.ttf" "$out/amiri/"
done
cp expo-google-fonts-amiri-0.4.1/package/LICENSE_FONT "$out/amiri/LICENSE.txt"
display() { # display FOLDER STEM STYLE ... : a family as it comes, unchanged
    folder=$1 stem=$2
    shift 2
    package=$(echo expo-google-fonts-"$folder"-*/package)
    mkdir -p "$out/$folder"
    for style in "$@"; do cp "$package/$style/${stem}_$style.ttf" "$out/$folder/"; done
    cp "$package/LICENSE_FONT" "$out/$folder/LICENSE.txt"
}
display archivo Archivo 100Thin 200ExtraLight 300Light 400Regular 500Medium 600SemiBold 700Bold 800ExtraBold 900Black
display bebas-neue BebasNeue 400Regular
display syncopate Syncopate 400Regular 700Bold
display zilla-slab ZillaSlab 400Regular 700Bold
display bodoni-moda BodoniModa 400Regular 400Regular_Italic 700Bold 900Black
display alfa-slab-one AlfaSlabOne 400Regular
display nunito Nunito 400Regular 800ExtraBold
display black-ops-one BlackOpsOne 400Regular
display pacifico Pacifico 400Regular
display caveat-brush CaveatBrush 400Regular
display unifrakturcook UnifrakturCook 700Bold
display ibm-plex-mono IBMPlexMono 400Regular 700Bold
cp ibm-plex-sans-1.1.0/package/LICENSE.txt "$out/plex-sans/"
cp ibm-plex-sans-condensed-2.0.0/package/LICENSE.txt "$out/plex-sans-condensed/"
"$here/.venv/bin/python" - "$out" <<'PYTHON'
import sys
from pathlib import Path

from fontTools.ttLib import TTFont

out = Path(sys.argv[1])
for package, folder, styles in (
    ("ibm-plex-sans-1.1.0", "plex-sans", "Regular Italic Medium SemiBold Bold"),
    ("ibm-plex-sans-condensed-2.0.0", "plex-sans-condensed", "Regular Medium SemiBold Bold"),
):
    for style in styles.split():
        source = next(Path(package).glob(f"package/fonts/complete/woff/*-{style}.woff"))
        font = TTFont(source)
        font.flavor = None
        font.save(out / folder / f"{source.stem}.{'otf' if 'CFF ' in font else 'ttf'}")
PYTHON
