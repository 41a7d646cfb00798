import { notFound } from 'next/navigation';
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

export default async function PlacePage({ params }: { params: Promise<{ place: string }> }) {
  const Place = PLACES[(await params).place];
  if (!Place) notFound();
  return <Place />;
}
