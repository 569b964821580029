import { colorSchemeLight, themeQuartz } from 'ag-grid-community';

/** The look of lists: the tokens of the product, as the grid takes them. */
export const gridTheme = themeQuartz.withPart(colorSchemeLight).withParams({
  backgroundColor: '#ffffff',
  foregroundColor: '#22302b',
  borderColor: '#e9e5da',
  headerBackgroundColor: '#f6f4ee',
  headerTextColor: '#5c6963',
  headerFontWeight: 560,
  headerFontSize: 12.5,
  fontFamily: 'inherit',
  fontSize: 13,
  rowHeight: 34,
  headerHeight: 30,
  wrapperBorder: false,
  wrapperBorderRadius: 0,
  rowHoverColor: '#faf8f3',
  selectedRowBackgroundColor: '#e4efe8',
  headerColumnResizeHandleColor: '#dcd7ca',
  cellHorizontalPadding: 8,
  spacing: 6,
  columnBorder: false,
  focusShadow: 'none',
  accentColor: '#2e6a50',
});
