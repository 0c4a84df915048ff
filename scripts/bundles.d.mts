/** Programs that run from bundles, with their sources. */
export declare const PROGRAMS: Readonly<
  Record<
    | 'bench'
    | 'land-index'
    | 'main'
    | 'make-photo'
    | 'map-styles'
    | 'make-sheet'
    | 'painter'
    | 'place-index'
    | 'poster'
    | 'reader'
    | 'screenshots'
    | 'seed'
    | 'styles'
    | 'torture'
    | 'type-metrics'
    | 'stand-in',
    string
  >
>
export declare function programPath(name: keyof typeof PROGRAMS, root?: string): string
