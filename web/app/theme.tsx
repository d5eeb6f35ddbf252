import { ConfigProvider, theme } from 'antd';
import { type ReactNode, createContext, useContext, useEffect, useMemo, useState } from 'react';

export type ThemeName = 'light' | 'dark';
const ThemeContext = createContext<{ name: ThemeName; setName: (name: ThemeName) => void }>({
  name: 'light',
  setName: () => {},
});
export const useTheme = () => useContext(ThemeContext);

const KEY = 'tassel-theme';
const roles = {
  light: {
    ink: '#1c1b1d',
    soft: '#66646a',
    sheet: '#fafafa',
    line: '#d9d9d9',
    plum: '#6a2a5b',
    wash: '#f1e6ee',
    marigold: '#b86e00',
  },
  dark: {
    ink: '#f0eff1',
    soft: '#a9a6ad',
    sheet: '#202020',
    line: '#4a4a4a',
    plum: '#d79ac6',
    wash: '#3a2a36',
    marigold: '#e9a13a',
  },
} as const;

/** The light or the dark theme: the page's own roles, and the same roles for the component library. */
export function ThemeProvider({ children }: { children: ReactNode }) {
  const [name, setName] = useState<ThemeName>(() => (localStorage.getItem(KEY) === 'dark' ? 'dark' : 'light'));
  useEffect(() => {
    document.documentElement.dataset.theme = name;
    localStorage.setItem(KEY, name);
  }, [name]);
  const r = roles[name];
  const onPlum = name === 'dark' ? '#1d1019' : '#ffffff';
  const config = useMemo(
    () => ({
      algorithm: name === 'dark' ? theme.darkAlgorithm : theme.defaultAlgorithm,
      token: {
        fontFamily: "'Hanken Grotesk Variable', sans-serif",
        fontSize: 14,
        colorPrimary: r.plum,
        colorLink: r.plum,
        colorText: r.ink,
        colorTextSecondary: r.soft,
        colorTextPlaceholder: r.soft,
        colorBgContainer: r.sheet,
        colorBgElevated: r.sheet,
        colorBorder: r.line,
        colorBorderSecondary: r.line,
        colorWarning: r.marigold,
        borderRadius: 9,
        borderRadiusLG: 9,
        borderRadiusSM: 7,
        controlHeight: 32,
        controlHeightSM: 26,
        boxShadow: 'none',
        wireframe: false,
        motionDurationMid: '0.12s',
        motionDurationSlow: '0.16s',
      },
      components: {
        Button: {
          primaryShadow: 'none',
          defaultShadow: 'none',
          fontWeight: 600,
          contentFontSize: 14,
          defaultBg: r.sheet,
          primaryColor: onPlum,
        },
        Segmented: {
          trackBg: r.sheet,
          itemColor: r.soft,
          itemSelectedBg: r.ink,
          itemSelectedColor: r.sheet,
          itemHoverBg: 'transparent',
          itemActiveBg: 'transparent',
          trackPadding: 0,
        },
        Input: { activeShadow: 'none' },
        InputNumber: { activeShadow: 'none', handleVisible: 'auto' as const },
        Select: { optionSelectedBg: r.wash },
        // Off, a switch must still be seen, and the word on it read.
        Switch: { colorTextQuaternary: r.soft, colorTextTertiary: r.soft, colorTextLightSolid: onPlum },
        Tooltip: { colorBgSpotlight: '#1c1b1d' },
      },
    }),
    [name, onPlum, r],
  );
  const value = useMemo(() => ({ name, setName }), [name]);
  return (
    <ThemeContext value={value}>
      <ConfigProvider theme={config} wave={{ disabled: true }}>
        {children}
      </ConfigProvider>
    </ThemeContext>
  );
}
