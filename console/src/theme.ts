import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** The component library in our own look: paper, teal and plum, our radii and fields. */
export const theme = {
  preset: definePreset(Aura, {
    semantic: {
      primary: {
        50: '#e9f5f3',
        100: '#c9e7e3',
        200: '#9fd4cd',
        300: '#6fbcb3',
        400: '#3f9e95',
        500: '#1d7f78',
        600: '#17706a',
        700: '#125a55',
        800: '#0d4541',
        900: '#09322f',
        950: '#05201e',
      },
      borderRadius: { md: '10px' },
      focusRing: { width: '3px', style: 'solid', color: '#6b3a63', offset: '2px' },
      colorScheme: {
        light: {
          surface: {
            0: '#fffdf6',
            50: '#fbf6ea',
            100: '#f3ecdb',
            200: '#ddd3bd',
            300: '#c6bba1',
            400: '#8a8068',
            500: '#6e6856',
            600: '#5f6573',
            700: '#4a5263',
            800: '#2a3145',
            900: '#1c2233',
            950: '#101e2d',
          },
          text: { color: '#1c2233', hoverColor: '#1c2233', mutedColor: '#4a5263' },
          formField: {
            background: '#fffdf6',
            borderColor: '#8a8068',
            hoverBorderColor: '#6e6856',
            focusBorderColor: '#6b3a63',
            color: '#1c2233',
          },
        },
      },
    },
    components: {
      button: { root: { paddingY: '9px', paddingX: '16px', label: { fontWeight: '600' } } },
      toggleswitch: { root: { width: '34px', height: '20px', background: '#8a8068', hoverBackground: '#6e6856' } },
      selectbutton: { root: { borderRadius: '10px' } },
    },
  }),
  options: { darkModeSelector: false, cssLayer: false },
} as const;
