/** Time zones to choose from. */
export const ZONES: readonly string[] = ['UTC', ...Intl.supportedValuesOf('timeZone')];
