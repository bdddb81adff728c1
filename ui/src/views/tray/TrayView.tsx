import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState } from "react";
import {
  api,
  body,
  type Dough,
  type Kitchen,
  ProblemError,
  type Schemas,
  type TraySetting,
} from "../../api/client";
import type { Aim, Way } from "../../logic/aim";
import { askAgain } from "../../logic/askAgain";
import { figureAt, moved, type Piece } from "../../logic/pieces";
import {
  doughQuery,
  foreseenQuery,
  KEYS,
  kindOf,
  kindsQuery,
  kitchenQuery,
  RESTS_ON_KITCHEN,
  restsOnDough,
} from "../../logic/queries";
import { AimPanel } from "../../parts/aim/AimPanel";
import type { Handled } from "../../parts/DrawnHandle";
import { AllMaking } from "../../parts/making/Making";
import { Notice } from "../../parts/Notice";
import { SideView } from "../../parts/SideView";
import { useTakeBack } from "../../parts/useTakeBack";
import { BandMakeUp } from "./BandMakeUp";
import { ChillPanel } from "./ChillPanel";
import { Figures } from "./Figures";
import { Movers } from "./Movers";
import { PortionPanel } from "./PortionPanel";
import { PrintPanel } from "./PrintPanel";
import { SettingRow, SheetFields } from "./SettingRow";
import { SheetDrawing } from "./SheetDrawing";
import { SizesPanel } from "./SizesPanel";
import { TraySentence } from "./TraySentence";
import { useKept } from "./useKept";
import { useScaleDough } from "./useScaleDough";
import { WhatIfBanner } from "./WhatIfBanner";

export default function TrayView({ doughId }: { doughId: number }) {
  const dough = useQuery(doughQuery(doughId));
  const kitchen = useQuery(kitchenQuery);
  const kinds = useQuery(kindsQuery);
  const problem = dough.error ?? kitchen.error ?? kinds.error;
  if (problem && !(dough.data && kitchen.data && kinds.data)) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || !kitchen.data || !kinds.data)
    return <p className="p-6 text-soft">One moment…</p>;
  return <TrayBench kinds={kinds.data} dough={dough.data} kitchen={kitchen.data} />;
}

interface TrayBenchProps {
  kinds: Schemas["KindShown"][];
  dough: Dough;
  kitchen: Kitchen;
}

function TrayBench({ kinds, dough, kitchen: atFirst }: TrayBenchProps) {
  const queries = useQueryClient();
  const [setting, putSetting, settingProblem] = useKept<TraySetting>(
    `tray ${dough.id}`,
    dough.tray,
    async (tray) => {
      // Whoever comes back to this screen before the answer finds what was set, not what was.
      queries.setQueryData(
        doughQuery(dough.id).queryKey,
        (before) => before && { ...before, tray },
      );
      const after = await body(
        api.PUT("/api/doughs/{dough_id}/tray", {
          params: { path: { dough_id: dough.id } },
          body: tray,
        }),
      );
      queries.setQueryData(doughQuery(dough.id).queryKey, after);
    },
  );
  const [kitchen, putKitchen, kitchenProblem] = useKept<Kitchen>(
    "kitchen",
    atFirst,
    async (changed) => {
      queries.setQueryData(
        kitchenQuery.queryKey,
        await body(api.PUT("/api/kitchen", { body: changed })),
      );
      await askAgain(queries, ...RESTS_ON_KITCHEN);
    },
  );
  const taking = useTakeBack<{ setting: TraySetting; kitchen: Kitchen }>((before) => {
    putSetting(before.setting);
    putKitchen(before.kitchen);
  });
  const setSetting: typeof putSetting = (change) => {
    taking.note({ setting, kitchen });
    putSetting(change);
  };
  const setKitchen: typeof putKitchen = (change) => {
    taking.note({ setting, kitchen });
    putKitchen(change);
  };
  const [tries, setTries] = useState<{ key: string; label: string }[]>([]);
  const tried = tries.map(({ key }) => key);
  const foreseen = useQuery(foreseenQuery(dough.id, setting, tried));
  const tray = foreseen.data;
  const keepTried = useMutation({
    mutationFn: () =>
      body(
        api.POST("/api/doughs/{dough_id}/keep-tried", {
          params: { path: { dough_id: dough.id } },
          body: { ...setting, tried },
        }),
      ),
    onSuccess: (after) => {
      queries.setQueryData(doughQuery(dough.id).queryKey, after);
      setSetting(after.tray);
      setTries([]);
      return askAgain(queries, ...restsOnDough(dough.id), KEYS.doughs);
    },
  });
  const keepWay = useMutation({
    mutationFn: ({ way, aim }: { way: Way; aim: Aim }) =>
      body(
        api.POST("/api/doughs/{dough_id}/keep-way", {
          params: { path: { dough_id: dough.id } },
          body: { revision: dough.revision, card: way.card, setting: way.setting, aim },
        }),
      ),
    onSuccess: (after) => {
      queries.setQueryData(doughQuery(dough.id).queryKey, after);
      setSetting(after.tray);
      return askAgain(queries, ...restsOnDough(dough.id), KEYS.doughs);
    },
  });
  const scaling = useScaleDough(dough);
  const problem = foreseen.error ?? settingProblem ?? kitchenProblem ?? keepTried.error;
  const fault = (field: string) =>
    problem instanceof ProblemError ? problem.at(field) : undefined;
  const setPiece = (change: (before: Piece) => Piece) =>
    setSetting((before) => {
      const piece = change(before.piece);
      // Another kind begins with one size.
      return piece.kind === before.piece.kind
        ? { ...before, piece }
        : { ...before, piece, also: [] };
    });
  const kind = kindOf(kinds, setting.piece.kind);
  const says = kind?.says;
  /** A handle of this kind as it is dragged in a drawing. */
  const handled = (field: string): Handled | undefined => {
    const handle = kind?.handles.find((one) => one.field === field);
    return (
      handle && {
        label: `${handle.label}, in the drawing`,
        measure: "length",
        range: [handle.range.low, handle.range.high],
        step: handle.step,
        value: figureAt(setting.piece, handle, tray?.piece_g),
        onChange: (value) => setPiece((before) => moved(before, handle, value)),
      }
    );
  };
  const making = says?.tab;
  const sheetFields = (
    <SheetFields
      kitchen={kitchen}
      sheet={setting.sheet ?? ""}
      fault={fault}
      onSheet={(sheet) => setSetting((before) => ({ ...before, sheet }))}
      onKitchen={setKitchen}
    />
  );

  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-7 gap-y-4 p-5 max-sm:p-3 md:grid-cols-[15.5rem_minmax(0,1fr)] lg:grid-cols-[15.5rem_minmax(0,1fr)_17rem]">
      <PortionPanel
        kinds={kinds}
        dough={dough}
        setting={setting}
        tray={tray}
        kitchen={kitchen}
        fault={fault}
        onPiece={setPiece}
        onSetting={setSetting}
        onEvenness={(evenness) => setSetting((before) => ({ ...before, evenness }))}
        onKitchen={setKitchen}
        onAlso={(also) => setSetting((before) => ({ ...before, also }))}
        takeBack={taking.press}
      />
      <div className="flex min-w-0 flex-col gap-3">
        <SettingRow
          setting={setting}
          kitchen={kitchen}
          oven={tray?.oven}
          turned={tray?.dial_c}
          begun={tray?.begun}
          fault={fault}
          onSetting={setSetting}
          onKitchen={setKitchen}
        />
        <Notice problem={problem} />
        <WhatIfBanner
          tries={tries}
          saving={keepTried.isPending}
          onKeep={() => keepTried.mutate()}
          onLeave={() => setTries([])}
        />
        <TrayTabs
          // A kind without a drawing of its own falls back to the sheet.
          key={making}
          tabs={[
            ...(says?.holder === "pan" ? [] : ["Sheet"]),
            ...(making ? [making] : []),
            "Aim",
            "Sizes",
            "Chill",
            "Print",
          ]}
        >
          {(tab) => {
            switch (tab) {
              case "Sheet":
                return (
                  <SheetDrawing
                    tray={tray}
                    gap={{
                      label: "Gap between baked pieces",
                      measure: "length",
                      range: GAP_MM,
                      step: 1,
                      value: kitchen.gap_mm,
                      onChange: (gap_mm) => setKitchen((before) => ({ ...before, gap_mm })),
                    }}
                  >
                    {sheetFields}
                  </SheetDrawing>
                );
              case "Aim":
                return (
                  <AimPanel
                    dough={dough}
                    setting={setting}
                    wide={says?.across !== ""}
                    press="Make it a version"
                    busy={keepWay.isPending}
                    problem={keepWay.error}
                    onTake={(way, aim) => keepWay.mutate({ way, aim })}
                  />
                );
              case "Sizes":
                return (
                  <SizesPanel
                    doughId={dough.id}
                    setting={setting}
                    tried={tried}
                    wide={says?.across !== ""}
                    onPiece={(piece) => setPiece(() => piece)}
                    onScale={(factor, piece, said) => {
                      setPiece(() => piece);
                      scaling.mutate({ factor, said });
                    }}
                    problem={scaling.error}
                  />
                );
              case "Chill":
                return (
                  <ChillPanel
                    doughId={dough.id}
                    setting={setting}
                    kitchen={kitchen}
                    onKitchen={setKitchen}
                    begun={tray?.begun}
                    onSetting={setSetting}
                    onMinutes={(chill_min) => setSetting((before) => ({ ...before, chill_min }))}
                  />
                );
              case "Print":
                return <PrintPanel dough={dough} setting={setting} tried={tried} tray={tray} />;
              default:
                return tray ? (
                  <AllMaking
                    tray={tray}
                    piece={setting.piece}
                    across={handled("cutter.across_mm")}
                  />
                ) : null;
            }
          }}
        </TrayTabs>
        {tray && <TraySentence doughId={dough.id} tray={tray} />}
      </div>
      {tray && (
        <div className="flex flex-col gap-4 md:max-lg:col-span-2 md:max-lg:grid md:max-lg:grid-cols-2">
          <Figures tray={tray} setting={setting} onSetting={setSetting} />
          {says?.holder !== "pan" && <SideView tray={tray} thick={handled("thickness_mm")} />}
          <BandMakeUp width={tray.width} />
          <Movers
            tray={tray}
            doughId={dough.id}
            setting={setting}
            tried={tried}
            onTry={(key, label) => setTries((before) => [...before, { key, label }])}
          />
        </div>
      )}
    </div>
  );
}

/** The gaps that can be asked for, as the field has them. */
const GAP_MM = [0, 40] as const;

interface TrayTabsProps {
  tabs: string[];
  children: (tab: string) => React.ReactNode;
}

/** The drawings and answers of the tray, one at a time. */
function TrayTabs({ tabs, children }: TrayTabsProps) {
  const [tab, setTab] = useState(tabs[0] ?? "");
  return (
    <Tabs.Root value={tab} onValueChange={setTab} className="flex min-w-0 flex-col gap-3">
      <Tabs.List aria-label="Of this tray" className="flex flex-wrap border-b border-ink">
        {tabs.map((name) => (
          <Tabs.Trigger
            key={name}
            value={name}
            className="min-h-9 border-b-4 border-transparent px-3 font-semibold text-soft hover:text-ink data-[state=active]:border-enamel data-[state=active]:text-ink"
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {tabs.map((name) => (
        <Tabs.Content key={name} value={name} className="min-w-0">
          {name === tab && children(name)}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
