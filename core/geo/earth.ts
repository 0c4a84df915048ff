/** The semi-major axis of the WGS 84 ellipsoid in metres, and the square of its first eccentricity. Source: NGA.STND.0036. */
export const SEMI_MAJOR_AXIS = 6_378_137
export const ECCENTRICITY_SQUARED = 0.00669437999014

/** The mean radius of the Earth in metres, (2 a + b) / 3 of WGS 84. Source: Moritz, Geodetic Reference System 1980 (2000), R1. */
export const MEAN_RADIUS = 6_371_008.8

/** The length of one degree of a great circle on a sphere of the mean radius, in metres. */
export const METRES_PER_DEGREE = (Math.PI * MEAN_RADIUS) / 180

/** The side of the square that Web Mercator shows of the world, in metres. Source: IOGP Guidance Note 373-7-2, 3.2.1.2. */
export const MERCATOR_SIDE = 2 * Math.PI * SEMI_MAJOR_AXIS
