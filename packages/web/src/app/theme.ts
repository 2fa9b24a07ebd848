import { theme, type ThemeConfig } from 'antd';
import type { Light } from '../data/bench.ts';

/**
 * Day and night bench. All words reach WCAG 2.2 AA contrast, which axe-core checks in the browser tests.
 * Signal colours come from the Okabe-Ito set and live in jiko.css. */
export function themeFor(light: Light): ThemeConfig {
  const night = light === 'night';
  return {
    algorithm: night ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontFamilyCode: "'Atkinson Hyperlegible Mono', monospace",
      fontSize: 15,
      colorPrimary: night ? '#56b4e9' : '#0b6390',
      colorInfo: night ? '#56b4e9' : '#0b6390',
      colorLink: night ? '#7cc6f0' : '#0b6390',
      // Near --bad: what is dangerous reads like what is wrong. The dark algorithm darkens it.
      colorError: night ? '#ffa070' : '#b04000',
      colorBgBase: night ? '#12181b' : '#fbfaf6',
      colorTextBase: night ? '#e9e6dd' : '#1d2528',
      colorTextSecondary: night ? '#c2c7c4' : '#414c50',
      colorTextTertiary: night ? '#a9b3b5' : '#566164',
      colorTextDescription: night ? '#a9b3b5' : '#566164',
      colorTextPlaceholder: night ? '#9daaad' : '#5a6568',
      colorBgLayout: night ? '#12181b' : '#f2efe7',
      borderRadius: 3,
      controlHeight: 36,
      motion: false,
    },
    components: {
      Table: { cellPaddingBlockSM: 5, cellPaddingInlineSM: 8 },
      Segmented: { trackPadding: 3, itemColor: night ? '#c2c7c4' : '#414c50' },
      Button: { primaryColor: night ? '#12181b' : '#ffffff' },
    },
  };
}
