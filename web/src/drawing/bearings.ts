/** Angles of a plan: clockwise from north. */
export const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** The bearing of a place east and north of here, to a tenth of a degree. */
export const bearingOf = (east: number, north: number) =>
  Math.round((((Math.atan2(east, north) * 180) / Math.PI + 360) % 360) * 10) / 10;
