import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** Steps of one dye from pale to deep, as the components ask for them. */
const WOAD = {
  50: '#eef3f7',
  100: '#d6e2ec',
  200: '#b0c8db',
  300: '#7fb0dc',
  400: '#4f81aa',
  500: '#24527a',
  600: '#20496d',
  700: '#1a3c5a',
  800: '#142e45',
  900: '#0e2030',
  950: '#08131d',
};

/** PrimeNG's components in the colours of the application's own tokens (styles.scss). */
export const dyersPreset = definePreset(Aura, {
  semantic: {
    primary: WOAD,
    borderRadius: { none: '0', xs: '2px', sm: '3px', md: '4px', lg: '4px', xl: '6px' },
    focusRing: { width: '2px', style: 'solid', color: 'var(--woad)', offset: '1px' },
    transitionDuration: '0.12s',
    colorScheme: {
      light: {
        ...scheme(),
        primary: { color: '#24527a', contrastColor: '#fffdf7', hoverColor: '#20496d', activeColor: '#1a3c5a' },
      },
      dark: {
        ...scheme(),
        primary: { color: '#7fb0dc', contrastColor: '#15191c', hoverColor: '#99c1e4', activeColor: '#b3d1eb' },
      },
    },
  },
  components: {
    tooltip: { root: { background: 'var(--ink)', color: 'var(--paper)', padding: '4px 8px' } },
    datatable: {
      headerCell: {
        background: 'var(--chalk)',
        color: 'var(--quiet)',
        borderColor: 'var(--line-strong)',
        padding: '0 10px',
      },
      row: { background: 'transparent', color: 'var(--ink)' },
      bodyCell: { borderColor: 'var(--line)', padding: '0 10px' },
    },
    tabs: { tablist: { background: 'transparent' } },
    toast: { root: { borderRadius: '4px', width: '26rem' } },
    button: {
      root: {
        gap: '6px',
        sm: { fontSize: '14px', paddingX: '12px', paddingY: '5px', iconOnlyWidth: '32px' },
        label: { fontWeight: '500' },
      },
      colorScheme: { light: button(), dark: button() },
    },
    select: { root: { sm: { fontSize: '14px', paddingX: '9px', paddingY: '5px' } }, dropdown: { width: '28px' } },
    textarea: { root: { paddingX: '9px', paddingY: '6px' } },
    checkbox: {
      root: { width: '16px', height: '16px', sm: { width: '16px', height: '16px' } },
      icon: { size: '12px' },
    },
    radiobutton: { root: { width: '16px', height: '16px' }, icon: { size: '8px' } },
    inputtext: { root: { sm: { fontSize: '14px', paddingX: '9px', paddingY: '5px' } } },
    message: {
      text: { fontSize: '14px', fontWeight: '400' },
      content: { padding: '6px 12px' },
      colorScheme: { light: message(), dark: message() },
    },
  },
});

/** Quiet by default: on paper, its edge and words in the colour of what it does when it is pointed at. */
function quietButton(hover: string): object {
  return {
    background: 'var(--paper)',
    hoverBackground: 'var(--paper)',
    activeBackground: 'var(--chalk)',
    borderColor: 'var(--line-strong)',
    hoverBorderColor: hover,
    activeBorderColor: hover,
    color: 'var(--ink)',
    hoverColor: hover,
    activeColor: hover,
    focusRing: { color: 'var(--woad)', shadow: 'none' },
  };
}

function button(): object {
  return {
    root: { secondary: quietButton('var(--woad)'), danger: quietButton('var(--madder)') },
    text: {
      secondary: { hoverBackground: 'var(--woad-wash)', activeBackground: 'var(--woad-wash)', color: 'var(--ink)' },
      danger: { hoverBackground: 'var(--madder-wash)', activeBackground: 'var(--madder-wash)', color: 'var(--ink)' },
    },
  };
}

function message(): object {
  return {
    warn: {
      background: 'var(--weld-wash)',
      borderColor: 'var(--weld)',
      color: 'var(--ink)',
      shadow: 'none',
      closeButton: { hoverBackground: 'var(--paper)', focusRing: { color: 'var(--woad)', shadow: 'none' } },
    },
  };
}

function scheme(): object {
  return {
    surface: {
      0: 'var(--paper)',
      50: 'var(--chalk)',
      100: 'var(--chalk)',
      200: 'var(--line)',
      300: 'var(--line-strong)',
      900: 'var(--ink)',
    },
    text: { color: 'var(--ink)', mutedColor: 'var(--quiet)', hoverColor: 'var(--ink)', hoverMutedColor: 'var(--ink)' },
    content: {
      background: 'var(--paper)',
      borderColor: 'var(--line)',
      color: 'var(--ink)',
      hoverBackground: 'var(--chalk)',
      hoverColor: 'var(--ink)',
    },
    highlight: {
      background: 'var(--woad-wash)',
      focusBackground: 'var(--woad-wash)',
      color: 'var(--ink)',
      focusColor: 'var(--ink)',
    },
    formField: {
      background: 'var(--paper)',
      borderColor: 'var(--line-strong)',
      hoverBorderColor: 'var(--woad)',
      focusBorderColor: 'var(--woad)',
      color: 'var(--ink)',
      placeholderColor: 'var(--quiet)',
      shadow: 'none',
    },
    overlay: {
      select: { background: 'var(--paper)', borderColor: 'var(--line-strong)', color: 'var(--ink)' },
      popover: { background: 'var(--paper)', borderColor: 'var(--line-strong)', color: 'var(--ink)' },
    },
    list: {
      option: {
        focusBackground: 'var(--woad-wash)',
        selectedBackground: 'var(--woad-wash)',
        selectedFocusBackground: 'var(--woad-wash)',
        color: 'var(--ink)',
        focusColor: 'var(--ink)',
        selectedColor: 'var(--ink)',
        selectedFocusColor: 'var(--ink)',
      },
    },
  };
}
