import { useQueryClient } from "@tanstack/react-query";
import {
  api,
  body,
  type Dough,
  type Kitchen,
  ProblemError,
  type TraySetting,
} from "../../api/client";
import { Notice } from "../../parts/Notice";
import { SideView } from "../../parts/SideView";
import { useDough } from "../dough/queries";
import { Movers } from "./Movers";
import { useForeseen, useKitchen } from "./queries";
import { SettingRow, SheetFields } from "./SettingRow";
import { SheetDrawing } from "./SheetDrawing";
import { TrayFigures } from "./TrayFigures";
import { TraySentence } from "./TraySentence";
import { useKept } from "./useKept";

export default function TrayView({ doughId }: { doughId: number }) {
  const dough = useDough(doughId);
  const kitchen = useKitchen();
  const problem = dough.error ?? kitchen.error;
  if (problem) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || !kitchen.data) return <p className="p-6 text-soft">One moment…</p>;
  return <TrayBench dough={dough.data} kitchen={kitchen.data} />;
}

function TrayBench({ dough, kitchen: atFirst }: { dough: Dough; kitchen: Kitchen }) {
  const queries = useQueryClient();
  const [setting, setSetting, settingProblem] = useKept<TraySetting>(dough.tray, async (tray) => {
    // Whoever comes back to this screen before the answer finds what was set, not what was.
    queries.setQueryData<Dough>(["dough", dough.id], (before) => before && { ...before, tray });
    const after = await body(
      api.PUT("/api/doughs/{dough_id}/tray", {
        params: { path: { dough_id: dough.id } },
        body: tray,
      }),
    );
    queries.setQueryData(["dough", dough.id], after);
  });
  const [kitchen, setKitchen, kitchenProblem] = useKept<Kitchen>(atFirst, async (changed) => {
    queries.setQueryData(["kitchen"], await body(api.PUT("/api/kitchen", { body: changed })));
    await queries.invalidateQueries({ queryKey: ["foresee"] });
  });
  const foreseen = useForeseen(dough.id, setting);
  const tray = foreseen.data;
  const problem = foreseen.error ?? settingProblem ?? kitchenProblem;
  const fault = (field: string) =>
    problem instanceof ProblemError ? problem.at(field) : undefined;
  const setGrams = (grams: number) =>
    setSetting((before) => ({ ...before, piece: { ...before.piece, grams } }));

  return (
    <div className="grid flex-1 content-start gap-x-8 gap-y-4 p-5 max-sm:p-3 sm:grid-cols-[15.5rem_minmax(0,1fr)] lg:grid-cols-[15.5rem_minmax(0,1fr)_17.5rem]">
      <TrayFigures
        dough={dough}
        setting={setting}
        tray={tray}
        fault={fault("grams")}
        onGrams={setGrams}
      />
      <div className="flex min-w-0 flex-col gap-3 sm:max-lg:order-3 sm:max-lg:col-span-2">
        <SettingRow
          family={dough.card.family}
          setting={setting}
          kitchen={kitchen}
          fault={fault}
          onSetting={setSetting}
          onKitchen={setKitchen}
        />
        <Notice problem={problem} />
        {tray && (
          <SheetDrawing tray={tray}>
            <SheetFields kitchen={kitchen} fault={fault} onKitchen={setKitchen} />
          </SheetDrawing>
        )}
        {!tray && <SheetFields kitchen={kitchen} fault={fault} onKitchen={setKitchen} />}
        {tray && <TraySentence doughId={dough.id} tray={tray} />}
      </div>
      {tray && (
        <div className="flex flex-col gap-6">
          <SideView tray={tray} />
          <Movers tray={tray} />
        </div>
      )}
    </div>
  );
}
