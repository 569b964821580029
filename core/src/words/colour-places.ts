/** Where colours of a theme meet. */
export const COLOUR_PLACES = {
  text: 'text on the page',
  'text-tinted': 'text on tinted blocks',
  captions: 'captions on the page',
  'captions-tinted': 'captions on tinted blocks',
  links: 'links on the page',
  'links-tinted': 'links on tinted blocks',
  buttons: 'words on buttons',
  'text-dark': 'text on dark blocks',
};
export type ColourPlace = keyof typeof COLOUR_PLACES;
