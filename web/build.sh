#!/bin/sh
# Called by Maven: installs what package-lock.json names, if it changed, and builds the interface.
set -eu
if [ ! -f node_modules/.installed ] || ! cmp -s package-lock.json node_modules/.installed; then
  npm ci --no-progress
  cp package-lock.json node_modules/.installed
fi
npm run --silent build
