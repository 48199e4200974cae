import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

/**
 * Colours with one meaning each: blue for where you are and the next step, yellow for what to say or attend to, red
 * for money out, removal and failure. A band says what somebody at the counter reads from afar.
 */
const light = {
  background: '#FAF7EF',
  surface: '#FFFFFF',
  ink: '#15171C',
  soft: '#5B5E66',
  hairline: '#DDD6C6',
  primary: '#1B4B9B',
  'primary-wash': '#E6EDF8',
  'on-primary': '#FFFFFF',
  error: '#BF2F1D',
  'error-wash': '#FBE9E5',
  warning: '#F4BE1A',
  'on-warning': '#15171C',
  'warning-wash': '#FDF3D0',
  band: '#15171C',
  'on-band': '#FFFFFF',
  'band-soft': '#D8D8D8',
};

const dark = {
  background: '#15171C',
  surface: '#1E2128',
  ink: '#F4F1E8',
  soft: '#B4B6BD',
  hairline: '#3B3F49',
  primary: '#8FB4F2',
  'primary-wash': '#24324C',
  'on-primary': '#10131A',
  error: '#FF9A87',
  'error-wash': '#43231E',
  warning: '#F4BE1A',
  'on-warning': '#15171C',
  'warning-wash': '#40361A',
  band: '#3A4254',
  'on-band': '#FFFFFF',
  'band-soft': '#D8D8D8',
};

const withText = (colors: typeof light) => ({
  ...colors,
  'on-background': colors.ink,
  'on-surface': colors.ink,
  'on-error': colors.surface,
});

/** The one place where the look of all components is decided: flat, square, outlined. */
export function createLook(nonce: string, theme: 'light' | 'dark' | 'system') {
  return createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: {
      defaultTheme: theme,
      cspNonce: nonce,
      themes: {
        light: {
          dark: false,
          colors: withText(light),
          variables: { 'border-opacity': 1, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 1 },
        },
        dark: {
          dark: true,
          colors: withText(dark),
          variables: { 'border-opacity': 1, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 1 },
        },
      },
    },
    defaults: {
      global: { elevation: 0, rounded: 0, ripple: false },
      VBtn: { variant: 'outlined', height: 48, minWidth: 44 },
      VTextField: { variant: 'outlined', density: 'comfortable', color: 'primary', hideDetails: 'auto' },
      VTextarea: { variant: 'outlined', density: 'comfortable', color: 'primary', hideDetails: 'auto' },
      VSelect: { variant: 'outlined', density: 'comfortable', color: 'primary', hideDetails: 'auto' },
      VCombobox: {
        variant: 'outlined',
        density: 'comfortable',
        color: 'primary',
        hideDetails: 'auto',
        ignoreAccents: true,
      },
      VDateInput: { variant: 'outlined', density: 'comfortable', color: 'primary', hideDetails: 'auto' },
      VAutocomplete: {
        variant: 'outlined',
        density: 'comfortable',
        color: 'primary',
        hideDetails: 'auto',
        ignoreAccents: true,
      },
    },
  });
}
