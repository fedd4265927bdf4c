/** The bevel's profile, chosen by its drawing: outline at the left, face at the right. */
import { FREE_PROFILE, optionName, PROFILES, type Profile, type ProfilePoint } from '@wemlox/core/document';
import { profilePoints } from '@wemlox/core/solid/profile';
import { BEVEL } from '@wemlox/core/document/parameters';

const WIDTH = 28;
const HEIGHT = 16;

const drawn = (profile: Profile, points: ProfilePoint[]) =>
  profilePoints({ profile, points: points.length < 2 ? FREE_PROFILE : points })
    .map(
      ([across, up]) =>
        `${(2 + across * (WIDTH - 4)).toFixed(1)},${(HEIGHT - 3 - up * (HEIGHT - 7)).toFixed(1)}`,
    )
    .join(' ');

export function ProfileRow({
  value,
  points,
  onChange,
}: {
  value: Profile;
  /** Of the free profile. */
  points: ProfilePoint[];
  onChange: (value: Profile) => void;
}) {
  return (
    <div className="grid grid-cols-[104px_1fr] gap-2.5 py-1" role="radiogroup" aria-label="Profile">
      <span>
        Profile <span className="quiet block text-xs">{optionName(BEVEL.profile, value)}</span>
      </span>
      <div className="grid grid-cols-7 gap-0.5">
        {PROFILES.map((profile) => (
          <button
            key={profile}
            type="button"
            role="radio"
            aria-checked={profile === value}
            aria-label={optionName(BEVEL.profile, profile)}
            title={optionName(BEVEL.profile, profile)}
            className={`cursor-pointer rounded-xs ${profile === value ? 'text-primary outline-1 outline-primary' : 'quiet'}`}
            onClick={() => onChange(profile)}
          >
            <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden>
              <polyline
                points={drawn(profile, points)}
                fill="none"
                stroke="currentColor"
                strokeWidth={1.4}
                strokeLinejoin="round"
              />
            </svg>
          </button>
        ))}
      </div>
    </div>
  );
}
