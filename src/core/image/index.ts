/** Pictures: rasters, read from PNG and written as such. */
export { isPng, MOST_PIXELS, readRaster, writeRaster, type Raster } from "./raster";
export { toLinear } from "./colour";
