#!/bin/sh
# Called by Maven: lays out Playwright's driver as its Java client wants it, from the npm package and this machine's node.
set -eu
if [ ! -f node_modules/.installed ] || ! cmp -s package-lock.json node_modules/.installed; then
  npm ci --no-progress
  cp package-lock.json node_modules/.installed
fi
rm -rf target/driver
mkdir -p target/driver
ln -s "$(command -v node)" target/driver/node
ln -s "$(pwd)/node_modules/playwright-core" target/driver/package
