import { randomFrom, seedOf, type Random } from './random.js';

/** A generated picture: its name, what is to be seen, and the drawing as SVG. */
export interface DemoPicture {
  readonly key: string;
  readonly description: string;
  readonly svg: string;
}

const W = 1800;
const H = 1200;

interface Light {
  readonly sky: readonly [string, string, string];
  readonly sun: string;
  readonly far: string;
  readonly near: string;
  readonly sea: readonly [string, string];
  readonly dark: string;
}

const LIGHTS = {
  dusk: {
    sky: ['#1d3b53', '#8d6a6f', '#e7a06b'],
    sun: '#ffd8a0',
    far: '#5d5a70',
    near: '#2c4257',
    sea: ['#6a6474', '#142f42'],
    dark: '#0d1f2d',
  },
  dawn: {
    sky: ['#9fc4cf', '#e4d3c0', '#f6c9a2'],
    sun: '#fff1d6',
    far: '#9fb0b5',
    near: '#5c7b83',
    sea: ['#a9bfc2', '#4c7480'],
    dark: '#23414c',
  },
  day: {
    sky: ['#6fa9c4', '#b7d6dd', '#e9efe6'],
    sun: '#fffdf2',
    far: '#8fb0b3',
    near: '#3f7371',
    sea: ['#6ea5ae', '#1f5a6d'],
    dark: '#12343f',
  },
  night: {
    sky: ['#0a1626', '#142a44', '#2b4a62'],
    sun: '#f3ecd2',
    far: '#1f3a52',
    near: '#0f2438',
    sea: ['#1b3a52', '#081624'],
    dark: '#040c16',
  },
  storm: {
    sky: ['#39454d', '#66747a', '#9aa5a4'],
    sun: '#d8dcd6',
    far: '#5f6d72',
    near: '#3a474d',
    sea: ['#6d7c80', '#27353c'],
    dark: '#161f24',
  },
  harvest: {
    sky: ['#a9c4bb', '#ecdfb8', '#f3c583'],
    sun: '#fff4cf',
    far: '#a7a66e',
    near: '#6d7838',
    sea: ['#8f9450', '#4d5a24'],
    dark: '#2e3616',
  },
} satisfies Record<string, Light>;
type LightName = keyof typeof LIGHTS;
type Subject = 'ferry' | 'lighthouse' | 'sails' | 'house' | 'hall' | 'room' | 'table' | 'orchard' | 'islands' | 'quay';

const SCENES: readonly (readonly [string, Subject, LightName, string])[] = [
  ['night-boat-dusk', 'ferry', 'dusk', 'The night boat leaving the harbour at dusk'],
  ['ferry-day', 'ferry', 'day', 'A white ferry crossing the sound on a clear day'],
  ['ferry-night', 'ferry', 'night', 'A ferry with lit windows under a full moon'],
  ['ferry-storm', 'ferry', 'storm', 'A ferry heading into grey weather'],
  ['ferry-dawn', 'ferry', 'dawn', 'The first boat of the morning on still water'],
  ['lighthouse-dusk', 'lighthouse', 'dusk', 'The lighthouse at Gannet Ness in the last light'],
  ['lighthouse-night', 'lighthouse', 'night', 'A lighthouse sweeping its beam over a dark sea'],
  ['lighthouse-storm', 'lighthouse', 'storm', 'A lighthouse above breaking waves'],
  ['islands-dawn', 'islands', 'dawn', 'Low islands in the morning haze'],
  ['islands-day', 'islands', 'day', 'Green islands in a bright sea'],
  ['sails-day', 'sails', 'day', 'Three small sailing boats close to the wind'],
  ['sails-dawn', 'sails', 'dawn', 'Two boats setting out before breakfast'],
  ['sails-dusk', 'sails', 'dusk', 'A fleet coming home under an orange sky'],
  ['house-dusk', 'house', 'dusk', 'The hotel above the quay with its windows lit'],
  ['house-night', 'house', 'night', 'Lanterns along the front of the hotel on a winter night'],
  ['house-dawn', 'house', 'dawn', 'The small hotel on its rock in the early light'],
  ['room-dusk', 'room', 'dusk', 'A bed by a window that looks out over the sea'],
  ['room-dawn', 'room', 'dawn', 'Morning light through the window of a guest room'],
  ['hall-night', 'hall', 'night', 'The old boatyard hall glowing from inside'],
  ['hall-dusk', 'hall', 'dusk', 'The boatyard hall with its doors open for the evening'],
  ['hall-day', 'hall', 'day', 'The long roof of the boatyard hall by the water'],
  ['table-dusk', 'table', 'dusk', 'Smoked fish, rye bread and two glasses on a wooden table'],
  ['table-night', 'table', 'night', 'A table set for supper by lamplight'],
  ['quay-dawn', 'quay', 'dawn', 'Boathouses along the quay in the morning'],
  ['quay-dusk', 'quay', 'dusk', 'Lamps coming on along the quay'],
  ['orchard-harvest', 'orchard', 'harvest', 'Rows of apple trees heavy with fruit'],
  ['orchard-dawn', 'orchard', 'dawn', 'The orchard in blossom at sunrise'],
];

/** What each picture shows, by its name. */
export const PICTURE_DESCRIPTIONS: ReadonlyMap<string, string> = new Map(
  SCENES.map(([key, , , description]) => [key, description]),
);

/** All pictures of the scenario, drawn from their names. */
export function demoPictures(): DemoPicture[] {
  return SCENES.map(([key, subject, light, description]) => ({
    key,
    description,
    svg: scene(subject, LIGHTS[light], randomFrom(seedOf(key))),
  }));
}

function scene(subject: Subject, light: Light, random: Random): string {
  const horizon = subject === 'orchard' ? 560 : subject === 'table' || subject === 'room' ? 640 : 690 + random() * 50;
  const inside = subject === 'room' || subject === 'table';
  const parts = [
    `<rect width="${W}" height="${H}" fill="url(#sky)"/>`,
    sun(light, horizon, random),
    clouds(light, horizon, random),
    hills(light.far, horizon, 150, 0.75, random),
    hills(light.near, horizon, 90, 0.9, random),
    `<rect y="${horizon}" width="${W}" height="${H - horizon}" fill="url(#sea)"/>`,
    subject === 'orchard' ? '' : waves(light, horizon, random),
    SUBJECTS[subject](light, horizon, random),
    inside ? '' : `<rect width="${W}" height="${H}" fill="url(#shade)"/>`,
  ];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}" viewBox="0 0 ${W} ${H}"><defs>
<linearGradient id="sky" x2="0" y2="1">${light.sky.map((colour, i) => `<stop offset="${(i * 0.3).toFixed(2)}" stop-color="${colour}"/>`).join('')}</linearGradient>
<linearGradient id="sea" x2="0" y2="1"><stop stop-color="${light.sea[0]}"/><stop offset="1" stop-color="${light.sea[1]}"/></linearGradient>
<linearGradient id="shade" x2="0" y2="1"><stop offset=".62" stop-color="${light.dark}" stop-opacity="0"/><stop offset="1" stop-color="${light.dark}" stop-opacity=".55"/></linearGradient>
<radialGradient id="glow"><stop stop-color="${light.sun}" stop-opacity=".75"/><stop offset="1" stop-color="${light.sun}" stop-opacity="0"/></radialGradient>
</defs>${parts.join('')}</svg>`;
}

function sun(light: Light, horizon: number, random: Random): string {
  const x = 1080 + random() * 460;
  const y = horizon - 120 - random() * 220;
  return `<circle cx="${x}" cy="${y}" r="430" fill="url(#glow)"/><circle cx="${x}" cy="${y}" r="${62 + random() * 26}" fill="${light.sun}"/>`;
}

function clouds(light: Light, horizon: number, random: Random): string {
  return Array.from({ length: 6 }, () => {
    const [x, y, w] = [random() * W, 60 + random() * (horizon - 320), 220 + random() * 520];
    return `<rect x="${x - w / 2}" y="${y}" width="${w}" height="${6 + random() * 18}" rx="10" fill="${light.sun}" opacity="${(0.08 + random() * 0.16).toFixed(2)}"/>`;
  }).join('');
}

function hills(colour: string, horizon: number, height: number, opacity: number, random: Random): string {
  const phase = random() * 9;
  const points = Array.from({ length: 37 }, (_, i) => {
    const t = i / 36;
    const rise = Math.max(
      0,
      Math.sin(t * 4.1 + phase) * 0.6 + Math.sin(t * 9.7 + phase * 2) * 0.28 + Math.sin(t * 23 + phase) * 0.08,
    );
    return `${(t * W).toFixed(0)},${(horizon - rise * height).toFixed(0)}`;
  });
  return `<polygon points="0,${horizon + 2} ${points.join(' ')} ${W},${horizon + 2}" fill="${colour}" opacity="${opacity}"/>`;
}

function waves(light: Light, horizon: number, random: Random): string {
  return Array.from({ length: 46 }, (_, i) => {
    const depth = i / 46;
    const y = horizon + 8 + depth ** 1.6 * (H - horizon);
    const w = 60 + depth * 340 * random();
    return `<rect x="${(random() * (W + 200) - 100).toFixed(0)}" y="${y.toFixed(0)}" width="${w.toFixed(0)}" height="${(1.5 + depth * 5).toFixed(1)}" rx="3" fill="${random() > 0.35 ? light.sun : light.dark}" opacity="${(0.05 + random() * 0.14).toFixed(2)}"/>`;
  }).join('');
}

const windows = (x: number, y: number, count: number, step: number, size: readonly [number, number], colour: string) =>
  Array.from(
    { length: count },
    (_, i) => `<rect x="${x + i * step}" y="${y}" width="${size[0]}" height="${size[1]}" rx="2" fill="${colour}"/>`,
  ).join('');

const SUBJECTS: Record<Subject, (light: Light, horizon: number, random: Random) => string> = {
  ferry: (light, horizon, random) => {
    const x = 330 + random() * 260;
    const y = horizon + 66;
    return `<g transform="translate(${x} ${y})"><polygon points="-40,0 620,0 560,96 30,96" fill="#f4ece0"/><polygon points="-18,40 594,40 560,96 30,96" fill="${light.dark}"/><rect x="40" y="-76" width="470" height="78" fill="#fbf6ec"/><rect x="110" y="-142" width="300" height="68" fill="#fbf6ec"/><rect x="150" y="-196" width="120" height="56" fill="#fbf6ec"/><polygon points="310,-142 372,-142 362,-232 322,-232" fill="#b0492a"/><rect x="318" y="-214" width="48" height="14" fill="#fbf6ec"/>${windows(62, -54, 12, 36, [22, 22], '#f0b962')}${windows(130, -122, 8, 34, [20, 20], '#f0b962')}<rect x="162" y="-182" width="96" height="18" fill="${light.dark}"/><path d="M-120 104 Q 260 82 760 108 Q 260 122 -120 104" fill="${light.sun}" opacity=".35"/></g>`;
  },
  lighthouse: (light, horizon) =>
    `<polygon points="1080,${horizon} 1180,500 1800,500 1800,${horizon + 130} 1000,${horizon + 130}" fill="${light.dark}"/><polygon points="1010,${horizon + 130} 1200,${horizon - 60} 1800,${horizon - 110} 1800,${horizon + 190}" fill="${light.near}"/><polygon points="1330,560 1430,560 1412,190 1348,190" fill="#f4ece0"/><polygon points="1337,440 1423,440 1419,360 1341,360" fill="#b0492a"/><polygon points="1326,190 1434,190 1434,172 1326,172" fill="${light.dark}"/><rect x="1352" y="116" width="56" height="56" fill="#ffe2a0"/><polygon points="1342,116 1418,116 1380,70" fill="#b0492a"/><polygon points="1360,144 0,20 0,250" fill="#ffe2a0" opacity=".16"/>`,
  sails: (light, horizon, random) =>
    [0, 1, 2]
      .map((i) => {
        const [x, y, k] = [280 + i * 480 + random() * 120, horizon + 40 + random() * 170, 0.75 + random() * 0.7];
        return `<g transform="translate(${x} ${y}) scale(${k.toFixed(2)})"><polygon points="6,-300 6,-20 170,-20" fill="#fbf6ec"/><polygon points="-6,-280 -6,-20 -110,-20" fill="${['#b0492a', '#e6b25c', '#2f7d72'][i]}"/><rect x="-3" y="-320" width="6" height="320" fill="${light.dark}"/><path d="M-130 0 H180 Q150 52 90 54 H-70 Q-118 50 -130 0" fill="${light.dark}"/><path d="M-200 60 Q20 44 260 62 Q20 74 -200 60" fill="${light.sun}" opacity=".4"/></g>`;
      })
      .join(''),
  islands: (light, horizon, random) =>
    [0, 1, 2, 3]
      .map((i) => {
        const [x, y, w] = [i * 470 + random() * 160, horizon + 20 + i * 60 * random(), 320 + random() * 360];
        return `<path d="M${x} ${y} q${w * 0.2} -${60 + random() * 90} ${w * 0.5} -${50 + random() * 60} t${w * 0.5} ${90}z" fill="${i % 2 ? light.near : light.dark}" opacity=".92"/><rect x="${x + w * 0.4}" y="${y - 92}" width="34" height="30" fill="#f4ece0"/><polygon points="${x + w * 0.4 - 6},${y - 92} ${x + w * 0.4 + 40},${y - 92} ${x + w * 0.4 + 17},${y - 118}" fill="#b0492a"/>`;
      })
      .join(''),
  house: (light, horizon) =>
    `<polygon points="0,${horizon + 200} 240,${horizon - 30} 1500,${horizon - 30} 1800,${horizon + 120} 1800,1200 0,1200" fill="${light.dark}"/><rect x="420" y="330" width="860" height="${horizon - 350}" fill="${light.near}"/><rect x="420" y="330" width="860" height="${horizon - 350}" fill="#f4ece0" opacity=".55"/><polygon points="380,336 1320,336 1180,190 520,190" fill="${light.dark}"/><rect x="600" y="130" width="54" height="100" fill="${light.dark}"/><rect x="1040" y="130" width="54" height="100" fill="${light.dark}"/>${windows(480, 400, 8, 98, [52, 74], '#f5c66f')}${windows(480, 530, 4, 98, [52, 84], '#f5c66f')}${windows(976, 530, 3, 98, [52, 84], '#f5c66f')}<rect x="880" y="520" width="64" height="${horizon - 540}" fill="${light.dark}"/>${Array.from({ length: 9 }, (_, i) => `<circle cx="${300 + i * 150}" cy="${horizon + 26 + (i % 2) * 12}" r="34" fill="#f5c66f" opacity=".22"/><circle cx="${300 + i * 150}" cy="${horizon + 26 + (i % 2) * 12}" r="9" fill="#ffe7b0"/>`).join('')}`,
  hall: (light, horizon) =>
    `<polygon points="0,${horizon + 90} 1800,${horizon + 60} 1800,1200 0,1200" fill="${light.dark}" opacity=".85"/><polygon points="240,${horizon + 80} 240,420 560,250 880,420 1200,250 1520,420 1520,${horizon + 80}" fill="${light.near}"/><polygon points="240,${horizon + 80} 240,420 560,250 880,420 1200,250 1520,420 1520,${horizon + 80}" fill="${light.dark}" opacity=".5"/><rect x="430" y="470" width="260" height="${horizon - 390}" fill="#f5b75e"/><rect x="1070" y="470" width="260" height="${horizon - 390}" fill="#f5b75e"/>${Array.from({ length: 4 }, (_, i) => `<rect x="${[490, 555, 620, 1130][i]}" y="470" width="5" height="${horizon - 390}" fill="${light.dark}" opacity=".55"/>`).join('')}<rect x="1198" y="470" width="5" height="${horizon - 390}" fill="${light.dark}" opacity=".55"/><rect x="1264" y="470" width="5" height="${horizon - 390}" fill="${light.dark}" opacity=".55"/><polygon points="430,${horizon + 80} 690,${horizon + 80} 800,1200 300,1200" fill="#f5b75e" opacity=".22"/><polygon points="1070,${horizon + 80} 1330,${horizon + 80} 1480,1200 960,1200" fill="#f5b75e" opacity=".22"/>`,
  room: (light, horizon) =>
    `<path d="M0 0H1800V1200H0Z M260 130V${horizon + 120}H1120V130Z" fill-rule="evenodd" fill="#4a372b"/><path d="M0 0H1800V1200H0Z M260 130V${horizon + 120}H1120V130Z" fill-rule="evenodd" fill="${light.dark}" opacity=".25"/><path d="M260 130V${horizon + 120}H1120V130Z" fill="none" stroke="#f0e2cd" stroke-width="22"/><rect x="680" y="130" width="16" height="${horizon - 10}" fill="#f0e2cd"/><rect x="260" y="420" width="860" height="14" fill="#f0e2cd"/><polygon points="640,1200 720,880 1800,820 1800,1200" fill="#efe3d2"/><polygon points="640,1200 690,1010 1800,980 1800,1200" fill="#b0694a"/><rect x="1330" y="740" width="420" height="130" rx="50" fill="#fbf5ea"/><circle cx="1560" cy="420" r="220" fill="#ffd890" opacity=".22"/><rect x="1548" y="450" width="22" height="230" fill="#caa26a"/><polygon points="1480,460 1640,460 1600,330 1520,330" fill="#ffe3ae"/>`,
  table: (light) =>
    `<rect width="1800" height="1200" fill="#2b211d"/><circle cx="1240" cy="260" r="620" fill="url(#glow)" opacity=".6"/><polygon points="0,640 1800,560 1800,1200 0,1200" fill="#6f4a31"/>${Array.from({ length: 7 }, (_, i) => `<polygon points="0,${700 + i * 80} 1800,${610 + i * 90} 1800,${614 + i * 90} 0,${704 + i * 80}" fill="#3d281b" opacity=".5"/>`).join('')}<ellipse cx="760" cy="860" rx="470" ry="170" fill="#efe6d8"/><ellipse cx="760" cy="850" rx="400" ry="136" fill="#dfd3c0"/><path d="M430 850 Q640 740 920 820 L1050 770 L1030 860 L1060 930 L920 880 Q640 950 430 850" fill="#c2713c"/><path d="M470 850 Q640 790 900 840" fill="none" stroke="#8d4722" stroke-width="8"/><circle cx="500" cy="842" r="10" fill="#2b211d"/><rect x="1240" y="640" width="330" height="120" rx="46" fill="#7b5231"/><rect x="1260" y="660" width="290" height="30" rx="14" fill="#a3754a"/><path d="M1350 470h150l-20 150q-6 30-40 34v96h50v18h-130v-18h50v-96q-34-4-40-34z" fill="${light.sun}" opacity=".55"/><path d="M210 440h150l-20 150q-6 30-40 34v96h50v18h-130v-18h50v-96q-34-4-40-34z" fill="${light.sun}" opacity=".45"/>`,
  quay: (light, horizon, random) =>
    `${Array.from({ length: 7 }, (_, i) => {
      const [x, w, h] = [60 + i * 245, 200 + random() * 40, 190 + random() * 120];
      const colour = ['#a5452c', '#d8a65a', '#e9dfd0', '#3f6b70', '#8f3b2b', '#c9c0b0', '#50666b'][i] as string;
      return `<rect x="${x}" y="${horizon - h + 30}" width="${w}" height="${h}" fill="${colour}"/><polygon points="${x - 14},${horizon - h + 32} ${x + w + 14},${horizon - h + 32} ${x + w / 2},${horizon - h - 70}" fill="${light.dark}"/>${windows(x + 28, horizon - h + 70, 3, 56, [32, 42], '#f5c66f')}`;
    }).join(
      '',
    )}<rect y="${horizon + 24}" width="1800" height="26" fill="${light.dark}"/>${Array.from({ length: 13 }, (_, i) => `<rect x="${40 + i * 140}" y="${horizon + 48}" width="18" height="90" fill="${light.dark}"/>`).join('')}`,
  orchard: (light, horizon, random) =>
    [0, 1, 2]
      .map((row) =>
        Array.from({ length: 8 - row * 2 }, (_, i) => {
          const k = 0.55 + row * 0.45;
          const [x, y] = [i * (250 + row * 130) + row * 60 + random() * 30, horizon + 70 + row * 190];
          const fruit = Array.from(
            { length: 14 },
            () =>
              `<circle cx="${(random() * 200 - 100).toFixed(0)}" cy="${(-150 + random() * 130).toFixed(0)}" r="11" fill="#b5382a"/>`,
          ).join('');
          return `<g transform="translate(${x.toFixed(0)} ${y}) scale(${k})"><rect x="-12" y="-60" width="24" height="120" fill="${light.dark}"/><circle cy="-110" r="120" fill="${row % 2 ? light.near : light.sea[1]}"/><circle cx="-60" cy="-70" r="80" fill="${light.near}"/><circle cx="66" cy="-66" r="76" fill="${light.sea[1]}"/>${fruit}</g>`;
        }).join(''),
      )
      .join(''),
};
