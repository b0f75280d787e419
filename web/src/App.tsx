// Who is signed in decides what is shown: the sign-in page, a maker's designs, or one design on the bench.
import { Route, Routes } from "react-router";
import { Bars } from "./pages/Bars";
import { Bench } from "./pages/Bench";
import { Home } from "./pages/Home";
import { Machines } from "./pages/machines/Machines";
import { Shelf } from "./pages/Shelf";
import { SignIn } from "./pages/SignIn";
import { Together } from "./pages/Together";
import { useSession } from "./state/session";

export function App() {
  const session = useSession();
  if (!session.data) {
    return (
      <div className="empty">
        {session.failureCount > 0
          ? "The server does not answer yet. It is asked again every two seconds."
          : "Opening the workshop…"}
      </div>
    );
  }
  if (!session.data.user) return <SignIn session={session.data} />;
  return (
    <Routes>
      <Route path="/" element={<Home session={session.data} />} />
      <Route path="/designs/:id" element={<Bench />} />
      <Route path="/together" element={<Together />} />
      <Route path="/bars" element={<Bars />} />
      <Route path="/machines" element={<Machines />} />
      <Route path="/shelf" element={<Shelf />} />
      <Route path="*" element={<Home session={session.data} />} />
    </Routes>
  );
}
