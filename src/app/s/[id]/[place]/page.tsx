import { PlaceView } from './placeView';

export default function PlacePage() {
  return <PlaceView />;
}
