import "@fontsource-variable/archivo";
import "@fontsource-variable/spline-sans-mono";
import "@mantine/core/styles.css";
import "@mantine/notifications/styles.css";
import "./theme.css";
import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { theme } from "./theme";

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "";
// dialogs lock the page behind them with a style of their own
setNonce(nonce);

createRoot(document.getElementById("root")!).render(
  <MantineProvider theme={theme} getStyleNonce={() => nonce} defaultColorScheme="light">
    <Notifications position="bottom-center" autoClose={7000} />
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </MantineProvider>,
);
