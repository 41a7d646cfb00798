/** Metres a second in air of 20 degrees. */
export const SPEED_OF_SOUND = 343.2;

/** Seconds sound takes over a distance in metres. */
export const travelTime = (metres: number): number => metres / SPEED_OF_SOUND;
