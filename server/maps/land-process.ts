import { makeLandFile } from './land-file'

/** A process that makes the index of coasts; its argument is the path of the index. */
makeLandFile(process.argv[2]!)
