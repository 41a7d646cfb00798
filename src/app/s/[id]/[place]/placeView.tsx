'use client';
import { notFound, usePathname } from 'next/navigation';
import type { ComponentType } from 'react';
import { Brief } from '@/places/brief/brief';
import { Floor } from '@/places/floor/floor';
import { Flow } from '@/places/flow/flow';
import { Lineup } from '@/places/lineup/lineup';
import { Print } from '@/places/print/print';
import { Room } from '@/places/room/room';

const PLACES: Record<string, ComponentType> = {
  brief: Brief,
  lineup: Lineup,
  floor: Floor,
  flow: Flow,
  room: Room,
  print: Print,
};

/** The place that the address names. It is looked up here, not by the server: places change while the server is away. */
export function PlaceView() {
  const Place = PLACES[usePathname().split('/').at(-1) ?? ''];
  if (!Place) notFound();
  return <Place />;
}
