import { theme, type ThemeConfig } from 'antd';
import type { Light } from '../data/bench.ts';

/** Day and night bench. Signal colours come from the Okabe-Ito set and live in jiko.css. */
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
      colorBgBase: night ? '#12181b' : '#fbfaf6',
      colorTextBase: night ? '#e9e6dd' : '#1d2528',
      colorBgLayout: night ? '#12181b' : '#f2efe7',
      borderRadius: 3,
      controlHeight: 36,
      motion: false,
    },
    components: {
      Table: { cellPaddingBlockSM: 5, cellPaddingInlineSM: 8 },
      Segmented: { trackPadding: 3 },
    },
  };
}
