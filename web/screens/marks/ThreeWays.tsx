import { Link } from 'react-router';
import drawn from './start/drawn.webp';
import logo from './start/logo.webp';
import signature from './start/signature.webp';

interface Props {
  readonly brand: string;
  readonly onChoose: () => void;
}

const ways = [
  {
    ...{
      id: 'logo',
      title: 'Drop a logo',
      picture: logo,
      alt: 'A badge on a cream box, and the same cut out on black',
    },
    words: 'On a white box, blurred or baked in: it comes out transparent, in colour, black and reversed.',
  },
  {
    ...{ id: 'signature', title: 'Photograph a signature', picture: signature },
    alt: 'Pencil on cream paper, and the same in white on black',
    words: 'Sign a few times, photograph the sheet, drop it here: paper and light go, the pen stays.',
  },
  {
    ...{ id: 'drawn', title: 'Draw or type one', picture: drawn, alt: 'A name in a script, in blue and in cream' },
    words: 'On the pad with mouse, pen or finger, or as a line in a shipped typeface.',
  },
] as const;

/** The empty start of a brand: three ways in, each with what comes of it. */
export function ThreeWays({ brand, onChoose }: Props) {
  return (
    <section className="ways" aria-label={`First marks of ${brand}`}>
      <h2>{brand} has no marks yet. Three ways in:</h2>
      <div className="ways-cards">
        {ways.map(({ id, title, picture, alt, words }) => {
          const inside = (
            <>
              <img src={picture} alt={alt} width={560} height={300} />
              <b>{title}</b>
              <span className="soft">{words}</span>
            </>
          );
          if (id === 'drawn')
            return (
              <Link key={id} to="/take-in/draw" className="way">
                {inside}
              </Link>
            );
          return (
            <button key={id} type="button" className="way" onClick={onChoose}>
              {inside}
            </button>
          );
        })}
      </div>
    </section>
  );
}
