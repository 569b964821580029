import { isIcon, type IconName } from '../icons/index.js';
import { wrong, type Wrong } from '../words/faults.js';
import { isWrong, linkTargetFromJSON, type LinkTarget } from './link.js';
import { momentFromJSON, type Moment } from './moment.js';
import { pictureUseFromJSON, type PictureUse } from './picture-use.js';
import { isRecord, type Fault } from './result.js';
import { EMPTY_RICH_TEXT, richTextFromJSON, type RichText } from './rich-text.js';

export const MAX_BUTTON = 80;

export interface Button {
  readonly label: string;
  readonly target: LinkTarget | null;
  /** The name of an icon beside its words. */
  readonly icon?: IconName;
}

/** Something of the portfolio by identity: what it is called, holds or where it lies follows it. */
export interface Reference {
  readonly id: number;
}
export type Referred = 'page' | 'piece' | 'file';

interface Named {
  readonly key: string;
  readonly label: string;
  /** What is worth knowing where one fills it in. */
  readonly help?: string;
}

/** One field of a block: what the margin shows, how JSON is read, what a new block starts with. */
export type FieldDefinition =
  | (Named & {
      readonly kind: 'line' | 'paragraph';
      readonly max: number;
      readonly isCode?: boolean;
      /** Asked for only once this other field of the same thing is filled in. */
      readonly after?: string;
    })
  | (Named & { readonly kind: 'rich' | 'button' | 'moment' })
  | (Named & {
      readonly kind: 'picture';
      /** It stands behind a block and says nothing: it needs no description. */
      readonly isGround?: boolean;
    })
  | (Named & {
      readonly kind: 'reference';
      readonly of: Referred;
      /** Which files: films where it says nothing. */
      readonly holds?: 'captions';
    })
  | (Named & {
      readonly kind: 'choice';
      /** Its values are names of icons. */
      readonly isIcon?: boolean;
      readonly options: readonly { readonly value: string; readonly label: string }[];
    })
  | (Named & {
      readonly kind: 'list';
      readonly itemLabel: string;
      readonly min: number;
      readonly max: number;
      readonly fields: readonly FieldDefinition[];
    });

export type FieldValue = string | RichText | PictureUse | Button | Reference | Moment | null | readonly FieldValues[];
export interface FieldValues {
  readonly [key: string]: FieldValue;
}

/** What a field holds in a new block. */
export function blankValue(field: FieldDefinition): FieldValue {
  switch (field.kind) {
    case 'line':
    case 'paragraph':
      return '';
    case 'rich':
      return EMPTY_RICH_TEXT;
    case 'picture':
    case 'button':
    case 'reference':
    case 'moment':
      return null;
    case 'choice':
      return field.options[0]?.value ?? '';
    case 'list':
      return Array.from({ length: field.min }, () => blankValues(field.fields));
  }
}

export function blankValues(fields: readonly FieldDefinition[]): FieldValues {
  return Object.fromEntries(fields.map((field) => [field.key, blankValue(field)]));
}

/** Values from JSON by their definitions. Missing fields get their blank value; unknown ones are a fault. */
export function valuesFromJSON(
  fields: readonly FieldDefinition[],
  json: unknown,
  path: string,
  faults: Fault[],
): FieldValues {
  if (!isRecord(json)) {
    faults.push({ path, ...wrong('fields-unreadable') });
    return blankValues(fields);
  }
  for (const key of Object.keys(json))
    if (!fields.some((field) => field.key === key)) faults.push({ path: `${path}.${key}`, ...wrong('field-unknown') });
  return Object.fromEntries(
    fields.map((field) => {
      const value = json[field.key];
      return [
        field.key,
        value === undefined ? blankValue(field) : valueFromJSON(field, value, `${path}.${field.key}`, faults),
      ];
    }),
  );
}

/** One field's value from JSON. */
export function valueFromJSON(field: FieldDefinition, json: unknown, path: string, faults: Fault[]): FieldValue {
  const refuse = (what: Wrong): FieldValue => {
    faults.push({ path, ...what });
    return blankValue(field);
  };
  switch (field.kind) {
    case 'line':
    case 'paragraph': {
      if (typeof json !== 'string') return refuse(wrong('not-text'));
      if (json.length > field.max)
        return refuse(wrong('field-too-long', { label: field.label, length: json.length, most: field.max }));
      return json;
    }
    case 'rich':
      return richTextFromJSON(json, path, faults);
    case 'choice':
      return field.options.some(({ value }) => value === json) ? (json as string) : refuse(wrong('option-unknown'));
    case 'picture': {
      if (json === null) return null;
      const use = pictureUseFromJSON(json);
      return isWrong(use) ? refuse(use) : use;
    }
    case 'button': {
      if (json === null) return null;
      if (!isRecord(json) || typeof json['label'] !== 'string') return refuse(wrong('button-unreadable'));
      if (json['label'].length > MAX_BUTTON) return refuse(wrong('button-too-long', { most: MAX_BUTTON }));
      const target =
        json['target'] === null || json['target'] === undefined ? null : linkTargetFromJSON(json['target']);
      const icon = json['icon'];
      return isWrong(target) ? refuse(target) : { label: json['label'], target, ...(isIcon(icon) ? { icon } : {}) };
    }
    case 'reference':
      if (json === null) return null;
      return isRecord(json) && Number.isSafeInteger(json['id']) && Number(json['id']) > 0
        ? { id: json['id'] as number }
        : refuse(wrong('nothing-chosen'));
    case 'moment':
      return json === null ? null : (momentFromJSON(json) ?? refuse(wrong('moment-missing')));
    case 'list': {
      if (!Array.isArray(json)) return refuse(wrong('not-a-list'));
      if (json.length < field.min || json.length > field.max) return refuse(listCount(field, json.length));
      return json.map((item, index) => valuesFromJSON(field.fields, item, `${path}[${index}]`, faults));
    }
  }
}

/** What is wrong with a list of so many. */
export const listCount = ({ label, min, max }: Extract<FieldDefinition, { kind: 'list' }>, count: number): Wrong =>
  wrong('list-count', { label, least: min, most: max, count });

/** A text of a block as it is typed on the page: what it is, what it is called and how long it may be. */
export interface TextField {
  readonly kind: 'line' | 'paragraph' | 'rich';
  readonly label: string;
  readonly max: number | null;
}

/** The text at a path such as `heading`, `items[2].title` or `button.label`; `null` where there is none. */
export function textFieldAt(fields: readonly FieldDefinition[], path: string): TextField | null {
  const [, key, rest = ''] = /^([A-Za-z]+)(?:\[\d+\])?(?:\.(.+))?$/.exec(path) ?? [];
  const field = fields.find((one) => one.key === key);
  switch (field?.kind) {
    case 'line':
    case 'paragraph':
      return rest ? null : { kind: field.kind, label: field.label, max: field.max };
    case 'rich':
      return rest ? null : { kind: 'rich', label: field.label, max: null };
    case 'button':
      return rest === 'label' ? { kind: 'line', label: field.label, max: MAX_BUTTON } : null;
    case 'list':
      return rest ? textFieldAt(field.fields, rest) : null;
    default:
      return null;
  }
}
