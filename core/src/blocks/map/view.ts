import { degreesWords, placeFrom, planHtml, PLAN_STYLE } from '../../geo/index.js';
import { html } from '../../html/index.js';
import { buttonHtml, headingAt, linesHtml, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Map } from './schema.js';

export const mapView = viewOf<Map>({
  render: ({ layout, heading, address, place: typed, extent, landmarks, picture, button }, context) => {
    const place = placeFrom(typed);
    const known = landmarks.flatMap(({ name, place: where }) => {
      const at = placeFrom(where);
      return at && name ? [{ name, place: at }] : [];
    });
    const degrees =
      place && `${degreesWords(place.latitude, 'latitude')} ${degreesWords(place.longitude, 'longitude')}`;
    // Opened by whatever shows maps on the visitor's device (RFC 5870).
    const href = place && `geo:${place.latitude.toFixed(6)},${place.longitude.toFixed(6)}`;
    return html`
    <div class="map ${picture || place ? layout : 'words'}">
      ${!picture && place && html`<div class="map-picture">${planHtml(place, Number(extent), known, heading || address)}</div>`}
      ${picture && html`<div class="map-picture"${context.at('picture')}>${pictureHtml(picture, context, layout === 'beside' ? '(min-width: 52rem) 60vw, 100vw' : '100vw')}</div>`}
      <div class="map-words">${headingAt(heading, context)}${address && html`<address${context.at('address')}>${linesHtml(address)}</address>`}${href && html`<p class="map-degrees"><a href="${href}" dir="ltr">${degrees}</a></p>`}${buttonHtml(button, context)}</div>
    </div>`;
  },
  style: `
.map{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);display:grid;gap:1.5rem clamp(2rem,5vw,4rem)}
.map h2{margin:0 0 1rem}.map address{font-style:normal;margin-bottom:1.5rem}.map address p{margin:0 0 .4em}
.map-degrees{margin:0 0 1.25rem;font-variant-numeric:tabular-nums}
.map img{display:block;width:100%;height:auto;aspect-ratio:16/10;object-fit:cover;border-radius:var(--corner)}
.map.full{max-width:none;padding-inline:0;padding-top:0}.map.full img{aspect-ratio:21/9;border-radius:0}.map.full .map-words{padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}
@container(min-width:52rem){.map.beside{grid-template-columns:minmax(0,3fr) minmax(0,2fr);align-items:center}}${PLAN_STYLE}`,
});
