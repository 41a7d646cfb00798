#!/bin/sh
# Draws the demo's picture: a lighthouse at dusk whose lamp turns, with burned-in timecode from
# 10:00:00:00 at 25 fps. Run by hand: sh demo/make-picture.sh. Needs ffmpeg and fonts-dejavu-core.
set -e
cd "$(dirname "$0")/.."
font=/usr/share/fonts/truetype/dejavu/DejaVuSansMono.ttf
# Tower at x 252..268, lamp at (260, 84), horizon at y 150; the beam turns once in nine seconds.
sky='40+40*Y/H'
tower='between(X,250+(160-Y)*0.04,270-(160-Y)*0.04)*between(Y,90,162)'
lamp='between(X,254,266)*between(Y,78,90)'
# The lit cone to the left of the lamp, wider with distance.
beam='max(0,cos(2*PI*T/9)-0.1)*lt(X,252)*exp(-abs(Y-84-(260-X)*0.06*sin(2*PI*T/9))/max(3,3+(260-X)*0.075))'
sea='gt(Y,150+3*sin(X/23+T*0.9)+2*sin(X/11-T*1.3))'
mkdir -p public/demo
ffmpeg -v error -y -f lavfi -i "nullsrc=s=384x216:r=25:d=90,format=gray,geq=lum='if($lamp,215+40*cos(2*PI*T/9),if($tower,190-Y*0.3,if($sea,24+10*sin(X/17+Y/5+T)+8*sin(Y*0.9-T*2),$sky)+110*$beam))'" \
  -vf "format=rgb24,curves=red='0/0.02 0.4/0.30 1/1':green='0/0.04 0.4/0.38 1/0.97':blue='0/0.10 0.4/0.50 1/0.88',format=yuv420p,drawtext=fontfile=$font:timecode='10\:00\:00\:00':rate=25:fontsize=15:fontcolor=white:box=1:boxcolor=black@0.6:boxborderw=4:x=w-tw-10:y=10" \
  -c:v libx264 -preset veryslow -crf 30 -g 25 -pix_fmt yuv420p -movflags +faststart -map_metadata -1 -fflags +bitexact public/demo/picture.mp4
ls -l public/demo/picture.mp4
