/** Programs that run from bundles, with their sources. */
export declare const PROGRAMS: Readonly<
  Record<
    | 'bench'
    | 'main'
    | 'make-photo'
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
    | 'words',
    string
  >
>
export declare function programPath(name: keyof typeof PROGRAMS, root?: string): string
