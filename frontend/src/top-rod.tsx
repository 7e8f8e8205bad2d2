/** The rod across the top: a bead a place, showing where you are and what is still missing there. */
import { NavLink } from "react-router";

import { useFrame } from "./api/queries";
import { PLACES } from "./places";
import { useKeys } from "./pieces/keys";

export function TopRod() {
  const { data: frame } = useFrame();
  const { openKeys } = useKeys();
  return (
    <header className="flex items-center gap-6 border-b-[1.5px] border-line px-7 pt-3 pb-2 max-[1000px]:gap-3 max-[1000px]:px-4">
      <div className="flex shrink-0 items-center gap-2.5 font-head text-[1.18rem] font-bold min-[1000px]:w-44">
        <img src="/mark.svg" alt="" width={29} height={29} />
        <span className="max-[1000px]:sr-only">Yellow Abacus</span>
      </div>
      <nav aria-label="Places" className="relative min-w-0 flex-1">
        <div aria-hidden className="absolute inset-x-0 top-[13px] h-0.5 bg-ink" />
        <div aria-hidden className="absolute top-[3px] left-0 h-[22px] w-[5px] rounded-bead bg-ink" />
        <div aria-hidden className="absolute top-[3px] right-0 h-[22px] w-[5px] rounded-bead bg-ink" />
        <ol className="relative flex justify-around">
          {PLACES.map(({ path, name, filled, missing }, at) => {
            const lacks = frame && missing ? missing(frame) : undefined;
            return (
              <li key={path}>
                <NavLink to={path} title={`Key ${at + 1}`} className="group flex flex-col items-center px-1 text-center text-small leading-tight">
                  {({ isActive }) => (
                    <>
                      <span className="relative flex h-7 items-center">
                        <span
                          aria-hidden
                          className={`block rounded-bead border-[2px] border-ink transition-transform group-hover:scale-110 ${
                            isActive ? "size-6 bg-yellow" : "size-[17px]"
                          } ${isActive ? "" : frame && filled(frame) ? "bg-ink" : "bg-sheet"}`}
                        />
                        {lacks && lacks.count > 0 && (
                          <span
                            className="absolute -top-0.5 -right-3 min-w-[18px] rounded-bead border-[1.5px] border-ink bg-sheet px-1 text-center text-tiny leading-4"
                            title={`${lacks.count} ${lacks.says}`}
                          >
                            {lacks.count}
                            <span className="sr-only"> {lacks.says}</span>
                          </span>
                        )}
                      </span>
                      <span className={isActive ? "font-bold" : "text-soft group-hover:text-ink"}>{name}</span>
                    </>
                  )}
                </NavLink>
              </li>
            );
          })}
        </ol>
      </nav>
      <div className="shrink-0 text-end text-small leading-tight min-[1000px]:w-40">
        <div className="truncate font-semibold max-[1000px]:sr-only" title={frame?.name}>
          {frame?.name ?? " "}
        </div>
        <button type="button" className="quiet" onClick={openKeys}>
          Keys <kbd className="font-text">?</kbd>
        </button>
      </div>
    </header>
  );
}
