import { Arrow, GROUND, Label, LINE, MEANT, PART, Picture } from "./shapes";

export function DrainTube() {
  return (
    <Picture height={150}>
      <rect x="20" y="14" width="110" height="74" {...PART} />
      <rect x="20" y="46" width="110" height="42" {...GROUND} />
      <path d="M130 80h22" {...LINE} strokeWidth={5} />
      <path d="M152 82V18" {...LINE} strokeWidth={5} strokeDasharray="5 4" />
      <path d="M140 30h24M140 46h24" {...LINE} strokeWidth={4} />
      <path d="M152 80q40-6 44 36" stroke="var(--tan-fill)" strokeWidth="9" fill="none" />
      <path d="M152 80q40-6 44 36" {...LINE} />
      <path d="M166 104v38h72v-38" {...LINE} strokeWidth={3} />
      <path d="M168 124h68v16h-68z" {...GROUND} />
      <Arrow from={[206, 48]} to={[206, 92]} />
      <Label x={75} y={34}>
        reservoir
      </Label>
      <Label x={172} y={32} at="start">
        clips: up to fill
      </Label>
      <Label x={216} y={74} at="start">
        down
      </Label>
      <Label x={202} y={137}>
        container
      </Label>
    </Picture>
  );
}

export function WellRings() {
  return (
    <Picture height={170}>
      <circle cx="112" cy="86" r="74" {...PART} />
      <circle cx="112" cy="86" r="52" {...PART} />
      <circle cx="112" cy="86" r="32" {...MEANT} />
      <circle cx="112" cy="86" r="14" {...GROUND} />
      <circle cx="112" cy="86" r="63" {...LINE} strokeWidth={7} strokeDasharray="2 9" />
      <circle cx="112" cy="86" r="42" {...LINE} strokeWidth={7} strokeDasharray="2 9" />
      <circle cx="112" cy="86" r="23" {...LINE} strokeWidth={7} strokeDasharray="2 9" />
      <circle cx="192" cy="50" r="11" {...PART} strokeDasharray="3 2" />
      <circle cx="198" cy="86" r="11" {...PART} strokeDasharray="3 2" />
      <circle cx="192" cy="122" r="11" {...PART} strokeDasharray="3 2" />
      <path d="M42 77h14v18H42zM63 77h14v18H63zM82 77h14v18H82z" fill="var(--surface)" />
      <Label x={89} y={91}>
        1
      </Label>
      <Label x={70} y={91}>
        2
      </Label>
      <Label x={49} y={91}>
        3
      </Label>
      <Label x={216} y={90} at="start">
        gears
      </Label>
      <Label x={186} y={18} at="start">
        back: 1, 2, 3,
      </Label>
      <Label x={186} y={162} at="start">
        then gears
      </Label>
    </Picture>
  );
}

export function TorchCarbon() {
  return (
    <Picture height={140}>
      <path d="M60 44h150M60 104h150" {...LINE} strokeWidth={4} />
      <path d="M60 58h110M60 90h110" {...LINE} strokeWidth={3} />
      <path d="M36 70h92M36 78h92" {...LINE} strokeWidth={2} />
      <path d="M190 40h20v8h-20zM190 100h20v8h-20zM114 66h16v16h-16z" {...MEANT} />
      <path d="M216 74q28-22 56 0q-28 22-56 0z" {...GROUND} />
      <Label x={200} y={32}>
        top of the outer tube
      </Label>
      <Label x={122} y={128}>
        tip of the injector
      </Label>
      <path d="M122 84v30" {...LINE} strokeWidth={1} />
      <Label x={244} y={79}>
        plasma
      </Label>
      <Label x={60} y={32}>
        outer
      </Label>
      <Label x={8} y={62} at="start">
        inner
      </Label>
    </Picture>
  );
}

export function JetDuct() {
  return (
    <Picture height={170}>
      <path d="M14 26l160-12v40l-160-10z" {...PART} />
      <path d="M20 66h150v-8h8v16H20z" {...MEANT} />
      <path d="M22 66l8-6" {...LINE} />
      <path d="M40 66v8M62 66v8M84 66v8M106 66v8M128 66v8M150 66v8" stroke="var(--ink)" strokeWidth="3" />
      <path d="M14 92h164v10H14z" {...PART} />
      <path d="M40 92v10M62 92v10M84 92v10M106 92v10M128 92v10M150 92v10" stroke="var(--ink)" strokeWidth="3" />
      <path d="M40 78v12M150 78v12" {...LINE} strokeWidth={1} strokeDasharray="3 2" />
      <Arrow from={[62, 106]} to={[62, 132]} />
      <Arrow from={[106, 106]} to={[106, 132]} />
      <Arrow from={[150, 106]} to={[150, 132]} />
      <path d="M14 140h184" stroke="var(--ink)" strokeWidth="5" strokeDasharray="8 4" />
      <Label x={96} y={40}>
        housing
      </Label>
      <Label x={186} y={60} at="start">
        plate, lip up
      </Label>
      <Label x={186} y={76} at="start">
        notch, narrow
      </Label>
      <Label x={186} y={101} at="start">
        cover
      </Label>
      <Label x={204} y={145} at="start">
        belt
      </Label>
      <Label x={96} y={164}>
        holes in line
      </Label>
    </Picture>
  );
}

export function FreezerRings() {
  return (
    <Picture height={150}>
      <rect x="16" y="30" width="150" height="26" {...PART} />
      <path d="M46 26v34M88 26v34M130 26v34" stroke="var(--tan-fill)" strokeWidth="9" />
      <path d="M46 26v34M88 26v34M130 26v34" {...LINE} strokeWidth={1.5} />
      <path d="M16 100h120v22H16z" {...PART} />
      <path d="M136 105h54v12h-54z" {...PART} />
      <path d="M30 94v34" stroke="var(--tan-fill)" strokeWidth="11" />
      <path d="M76 96v30M110 96v30" stroke="var(--tan-fill)" strokeWidth="6" />
      <path d="M30 94v34M76 96v30M110 96v30" {...LINE} strokeWidth={1.5} />
      <Label x={16} y={18} at="start">
        draw valve: three O-rings
      </Label>
      <Label x={16} y={86} at="start">
        pump shaft: one large, two small
      </Label>
      <Label x={196} y={116} at="start">
        driven end
      </Label>
    </Picture>
  );
}

export function HeadGuide() {
  return (
    <Picture height={150}>
      <rect x="30" y="12" width="220" height="20" {...PART} />
      <path d="M62 32h156v8H62z" {...GROUND} />
      <path d="M44 60v72M236 60v72" {...LINE} strokeWidth={6} />
      <path d="M38 66h204v56H38z" {...PART} strokeDasharray="4 3" />
      <rect x="66" y="92" width="148" height="18" {...MEANT} />
      <Arrow from={[206, 84]} to={[250, 84]} />
      <Arrow from={[74, 84]} to={[30, 84]} />
      <Label x={140} y={27}>
        print head
      </Label>
      <Label x={140} y={82}>
        three times
      </Label>
      <Label x={140} y={106} onTan>
        stick
      </Label>
      <Label x={140} y={140}>
        guide on the posts
      </Label>
    </Picture>
  );
}

export function BeltSplit() {
  return (
    <Picture height={160}>
      <circle cx="36" cy="92" r="26" {...PART} />
      <path d="M36 66h78l22-22l22 22h112" {...LINE} strokeWidth={4} />
      <path d="M36 118h234" {...LINE} strokeWidth={4} />
      <rect x="88" y="56" width="18" height="18" {...PART} />
      <rect x="166" y="56" width="18" height="18" {...PART} />
      <path d="M106 78h60" {...LINE} strokeWidth={2} />
      <path d="M60 124h206v8H60z" {...GROUND} />
      <path d="M78 110v28h10M96 110v28H86M222 110v28h10M240 110v28h-10" {...MEANT} />
      <path d="M76 110h22v8H76zM220 110h22v8h-22zM76 132h22v8H76zM220 132h22v8h-22z" {...MEANT} />
      <Label x={136} y={36}>
        joint
      </Label>
      <Label x={140} y={16}>
        pulling clamps, slack in a tent
      </Label>
      <path d="M97 54l14-30M175 54l-14-30" {...LINE} strokeWidth={1} />
      <Label x={158} y={108}>
        C-clamps: first
      </Label>
      <Label x={36} y={97}>
        drive
      </Label>
      <Label x={158} y={152}>
        support plate
      </Label>
    </Picture>
  );
}

export function BroomCore() {
  return (
    <Picture height={130}>
      <path d="M14 30h40v70H14z" {...PART} />
      <path d="M54 56h24v18H54z" {...PART} />
      <path d="M104 28h136v74H104z" {...GROUND} />
      <path d="M104 28l-4-8M124 28l-4-8M144 28l-4-8M164 28l-4-8M184 28l-4-8M204 28l-4-8M224 28l-4-8" {...LINE} />
      <path d="M104 102l-4 8M124 102l-4 8M144 102l-4 8M164 102l-4 8M184 102l-4 8M204 102l-4 8M224 102l-4 8" {...LINE} />
      <path d="M104 65l9-14h16l9 14l-9 14h-16z" {...MEANT} />
      <Arrow from={[230, 65]} to={[150, 65]} />
      <Label x={34} y={70}>
        drive
      </Label>
      <Label x={122} y={96}>
        hexagon
      </Label>
      <Label x={190} y={54}>
        push in
      </Label>
    </Picture>
  );
}

export function MillDoor() {
  return (
    <Picture height={156}>
      <rect x="120" y="50" width="120" height="86" {...PART} />
      <path d="M120 50L58 12" {...LINE} strokeWidth={7} />
      <path d="M120 50L108 42" stroke="var(--tan-fill)" strokeWidth="9" />
      <path d="M112 36l6 8l-2 4l8 6" {...LINE} strokeWidth={1.5} />
      <path d="M126 56v76" stroke="var(--line)" strokeWidth="3" strokeDasharray="4 4" />
      <path d="M92 136h26q-2 10-13 10t-13-10z" {...GROUND} />
      <path d="M20 140h250" {...LINE} />
      <circle cx="58" cy="16" r="9" {...MEANT} />
      <circle cx="86" cy="30" r="9" {...MEANT} />
      <Label x={44} y={20} at="end">
        one
      </Label>
      <Label x={76} y={52} at="end">
        the other
      </Label>
      <Label x={134} y={36} at="start">
        crack begins here
      </Label>
      <Label x={180} y={98}>
        chamber
      </Label>
      <Label x={84} y={132} at="end">
        puddle
      </Label>
    </Picture>
  );
}
