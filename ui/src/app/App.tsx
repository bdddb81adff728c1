import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { Navigate, Route, Routes, useParams } from "react-router";
import { forgetDough, rememberDough } from "../logic/lastDough";
import { doughQuery, isGone } from "../logic/queries";
import { Bake } from "../views/bake/Bake";
import { TodayView } from "../views/today/TodayView";
import { DrawnAnew, InUnits } from "./InUnits";
import { Screens } from "./Screens";
import { Shell } from "./Shell";

const DoughView = lazy(() => import("../views/dough/DoughView"));
const TrayView = lazy(() => import("../views/tray/TrayView"));
const PlanView = lazy(() => import("../views/plan/PlanView"));
const BookView = lazy(() => import("../views/book/BookView"));
const WholeBook = lazy(() => import("../views/book/WholeBook"));
const LarderView = lazy(() => import("../views/larder/LarderView"));
const KitchenView = lazy(() => import("../views/kitchen/KitchenView"));
const ColdView = lazy(() => import("../views/cold/ColdView"));
const NetworkView = lazy(() => import("../views/network/NetworkView"));
const DevicesView = lazy(() => import("../views/devices/DevicesView"));
const PrintCard = lazy(() => import("../views/dough/PrintCard"));
const PrintLabel = lazy(() => import("../views/cold/PrintLabel"));
const PrintLabels = lazy(() =>
  import("../views/cold/PrintLabel").then(({ PrintLabels: shown }) => ({ default: shown })),
);
const PrintLists = lazy(() => import("../views/plan/PrintLists"));
const PrintSession = lazy(() => import("./PrintSession"));
const PrintTray = lazy(() => import("../views/tray/PrintTray"));

/** The dough that the address names; a screen for it, or the Dough screen to choose one. */
function ForDough({ screen: Screen }: { screen: React.ComponentType<{ doughId: number }> }) {
  const id = Number(useParams().doughId);
  return Number.isSafeInteger(id) && id > 0 ? (
    <Known key={id} id={id} screen={Screen} />
  ) : (
    <NoSuchDough />
  );
}

/** A screen for a dough that is there; one that was thrown away is forgotten, and leads to the list. */
function Known({
  id,
  screen: Screen,
}: {
  id: number;
  screen: React.ComponentType<{ doughId: number }>;
}) {
  const { error } = useQuery(doughQuery(id));
  const gone = isGone(error);
  useEffect(() => {
    if (gone) forgetDough();
    else rememberDough(id);
  }, [id, gone]);
  return gone ? <NoSuchDough /> : <Screen doughId={id} />;
}

const NoSuchDough = () => <Navigate to="/dough" replace state={{ gone: true }} />;

export function App() {
  return (
    <InUnits>
      <Shell>
        <Screens>
          <DrawnAnew>
            <Suspense fallback={<p className="p-6 text-soft">One moment…</p>}>
              <Routes>
                <Route index element={<TodayView />} />
                <Route path="dough" element={<DoughView />} />
                <Route path="dough/:doughId" element={<ForDough screen={DoughView} />} />
                <Route path="tray/:doughId" element={<ForDough screen={TrayView} />} />
                <Route path="plan/:doughId?" element={<PlanView />} />
                <Route path="bake" element={<Bake />} />
                <Route path="book" element={<WholeBook />} />
                <Route path="book/:doughId" element={<ForDough screen={BookView} />} />
                <Route path="larder" element={<LarderView />} />
                <Route path="kitchen" element={<KitchenView />} />
                <Route path="cold" element={<ColdView />} />
                <Route path="devices" element={<DevicesView />} />
                <Route path="network" element={<NetworkView />} />
                <Route path="print/tray/:doughId" element={<ForDough screen={PrintTray} />} />
                <Route path="print/label/:itemId" element={<PrintLabel />} />
                <Route path="print/labels" element={<PrintLabels />} />
                <Route path="print/session/:sessionId" element={<PrintSession />} />
                <Route path="print/lists/:sessionId" element={<PrintLists />} />
                <Route path="print/:doughId" element={<ForDough screen={PrintCard} />} />
                <Route path="*" element={<Navigate to="/dough" replace />} />
              </Routes>
            </Suspense>
          </DrawnAnew>
        </Screens>
      </Shell>
    </InUnits>
  );
}
