import { Arrow, Cross, GROUND, Label, LINE, MEANT, PART, Picture } from "./shapes";

export function StrainerFlange() {
  return (
    <Picture height={150}>
      <path d="M6 40h74v-8h120v8h74M6 70h74v50M200 120V70h74" {...LINE} />
      <path d="M104 52h8v10h-8zM168 52h8v10h-8z" {...PART} />
      <path d="M108 62h64v58h-64z" {...MEANT} />
      <path d="M108 76h64M108 90h64M108 104h64M124 62v58M140 62v58M156 62v58" {...LINE} strokeWidth={1} />
      <path d="M60 120h40v8h80v-8h40v18H60z" {...PART} />
      <Arrow from={[18, 55]} to={[56, 55]} />
      <Label x={140} y={48}>
        lip in the housing
      </Label>
      <Label x={232} y={134} at="start">
        cover
      </Label>
      <Label x={54} y={134} at="end">
        groove
      </Label>
      <path d="M172 96h44" {...LINE} strokeWidth={1} />
      <Label x={220} y={100} at="start">
        screen
      </Label>
    </Picture>
  );
}

export function PlateLatches() {
  return (
    <Picture height={128}>
      <path d="M170 20h40v88h-40z" {...PART} />
      <path d="M170 34h-18v10h18zM170 84h-18v10h18z" {...PART} strokeDasharray="3 2" />
      <path d="M96 12h20v104H96z" {...MEANT} />
      <path d="M116 34h30v10h-30zM116 84h30v10h-30z" {...MEANT} />
      <Arrow from={[34, 39]} to={[88, 39]} />
      <Arrow from={[34, 89]} to={[88, 89]} />
      <Label x={60} y={68}>
        push
      </Label>
      <Label x={134} y={68}>
        pins
      </Label>
      <Label x={190} y={68}>
        body
      </Label>
      <Label x={246} y={42}>
        click
      </Label>
      <Label x={246} y={94}>
        click
      </Label>
    </Picture>
  );
}

export function CarriageRail() {
  return (
    <Picture height={128}>
      <rect x="10" y="92" width="260" height="10" {...MEANT} />
      <rect x="92" y="44" width="96" height="48" {...PART} />
      <path d="M10 26h260M10 34h260" {...LINE} />
      <path
        d="M14 26v8M24 26v8M34 26v8M44 26v8M54 26v8M226 26v8M236 26v8M246 26v8M256 26v8M266 26v8"
        {...LINE}
        strokeWidth={1.5}
      />
      <circle cx="206" cy="30" r="14" {...PART} />
      <Label x={140} y={73}>
        carriage
      </Label>
      <Label x={12} y={122} at="start">
        rail: oil
      </Label>
      <Label x={12} y={18} at="start">
        belt, gear, worm: grease
      </Label>
    </Picture>
  );
}

export function AugerFeeler() {
  return (
    <Picture height={176}>
      <path d="M70 30v130M210 30v130" {...LINE} strokeWidth={4} />
      <rect x="74" y="30" width="34" height="38" {...MEANT} />
      <rect x="172" y="30" width="34" height="38" {...MEANT} />
      <rect x="114" y="14" width="52" height="146" {...PART} />
      <path
        d="M114 84l-34 14M166 84l34 14M114 112l-34 14M166 112l34 14M114 140l-34 14M166 140l34 14"
        {...LINE}
        strokeWidth={4}
      />
      <path d="M110 6v56" stroke="var(--ink)" strokeWidth="3.5" />
      <path d="M78 96v34" stroke="var(--ink)" strokeWidth="3.5" strokeDasharray="4 3" />
      <Cross x={52} y={114} />
      <Label x={140} y={50}>
        auger
      </Label>
      <Label x={106} y={18} at="end">
        feeler here
      </Label>
      <Label x={214} y={54} at="start">
        bearing
      </Label>
      <Label x={36} y={98} at="middle">
        not at
      </Label>
      <Label x={36} y={144} at="middle">
        the wall
      </Label>
    </Picture>
  );
}

export function HeadSlots() {
  const heads = ["A", "B", "C", "D"];
  return (
    <Picture height={142}>
      {heads.map((name, i) => (
        <g key={name}>
          <rect x={12 + i * 66} y="84" width="54" height="30" {...PART} />
          <Label x={39 + i * 66} y={104}>
            {name}
          </Label>
        </g>
      ))}
      <rect x="84" y="10" width="42" height="34" {...MEANT} />
      <Label x={105} y={32} onTan>
        B
      </Label>
      <Arrow from={[105, 48]} to={[105, 80]} />
      <path d="M126 27h46v16" {...LINE} strokeDasharray="4 3" />
      <Cross x={172} y={62} />
      <rect x="216" y="10" width="42" height="34" {...PART} strokeDasharray="4 3" />
      <Arrow from={[237, 48]} to={[237, 80]} />
      <Label x={212} y={32} at="end">
        new
      </Label>
      <Label x={80} y={32} at="end">
        used in B
      </Label>
      <Label x={140} y={134}>
        slots, each with its own colours
      </Label>
    </Picture>
  );
}

export function GasketDart() {
  return (
    <Picture height={146}>
      <path d="M30 136V84h66v14H82v22h48V98h-14V84h66v52z" {...PART} />
      <path
        d="M46 20h120q16 0 16 16t-16 16h-50v18h12l-14 14v14h14l-22 18l-22-18h14V84L84 70h12V52H46q-16 0-16-16t16-16z"
        {...MEANT}
      />
      <Arrow from={[222, 20]} to={[222, 62]} />
      <Label x={106} y={41} onTan>
        gasket
      </Label>
      <Label x={222} y={80}>
        press in
      </Label>
      <Label x={192} y={128} at="start">
        retainer
      </Label>
      <Label x={34} y={76} at="start">
        dart
      </Label>
    </Picture>
  );
}

export function AirPath() {
  return (
    <Picture height={146}>
      <rect x="12" y="16" width="140" height="108" {...PART} />
      <rect x="152" y="30" width="46" height="94" {...MEANT} />
      <path d="M160 34v86M168 34v86M176 34v86M184 34v86M192 34v86" {...LINE} strokeWidth={1.5} />
      <Arrow from={[212, 34]} to={[212, 116]} />
      <path d="M268 8v124" {...LINE} strokeWidth={5} />
      <path d="M6 132h262" {...LINE} />
      <path d="M230 120h34M230 115v10M264 115v10" {...LINE} />
      <Label x={82} y={74}>
        cabinet
      </Label>
      <Label x={175} y={24}>
        fins
      </Label>
      <Label x={220} y={64} at="start">
        brush
      </Label>
      <Label x={220} y={80} at="start">
        down
      </Label>
      <Label x={247} y={110}>
        free
      </Label>
    </Picture>
  );
}

export function StripAndRod() {
  return (
    <Picture height={158}>
      <path d="M10 30h260" stroke="var(--ink)" strokeWidth="5" strokeDasharray="2 3" />
      <rect x="10" y="52" width="260" height="12" {...PART} />
      <rect x="8" y="86" width="74" height="40" {...GROUND} />
      <rect x="198" y="86" width="74" height="40" {...GROUND} />
      <path d="M8 30h74M198 30h74" stroke="var(--tan-fill)" strokeWidth="9" opacity="0.7" />
      <path d="M8 20v104M82 20v104M198 20v104M272 20v104" {...LINE} strokeWidth={1} strokeDasharray="3 3" />
      <Label x={140} y={22}>
        strip: water, both faces
      </Label>
      <Label x={140} y={84}>
        rod: clean, dry, oil
      </Label>
      <Label x={45} y={102}>
        hidden by
      </Label>
      <Label x={45} y={118}>
        cartridge
      </Label>
      <Label x={235} y={102}>
        parking
      </Label>
      <Label x={235} y={118}>
        station
      </Label>
      <Label x={45} y={150}>
        first
      </Label>
      <Label x={235} y={150}>
        last
      </Label>
    </Picture>
  );
}

export function WiperLip() {
  return (
    <Picture height={126}>
      <rect x="10" y="84" width="260" height="16" {...GROUND} />
      <path d="M150 18h108v52H150z" {...PART} />
      <path d="M150 30h-18l-18 54h14l14-38h8z" {...MEANT} />
      <Arrow from={[22, 74]} to={[98, 74]} />
      <path d="M40 76l10-8l6 8zM64 78l8-10l8 10z" {...LINE} strokeWidth={1.5} />
      <Label x={204} y={50}>
        cover
      </Label>
      <Label x={60} y={60}>
        chips
      </Label>
      <Label x={106} y={28} at="end">
        lip to the outside
      </Label>
      <Label x={140} y={118}>
        guide
      </Label>
    </Picture>
  );
}

export function HingeSlot() {
  return (
    <Picture height={126}>
      <rect x="54" y="76" width="186" height="24" {...PART} />
      <rect x="86" y="68" width="140" height="8" {...GROUND} />
      <path d="M54 76l-2-40l172-14l4 10L62 44l4 32z" {...PART} />
      <rect x="46" y="70" width="22" height="22" {...MEANT} />
      <Arrow from={[20, 28]} to={[48, 68]} />
      <Label x={16} y={22} at="start">
        towel, pipette
      </Label>
      <Label x={42} y={114}>
        hinge slot
      </Label>
      <Label x={156} y={93}>
        heater under it
      </Label>
      <Label x={168} y={60}>
        chamber
      </Label>
    </Picture>
  );
}
