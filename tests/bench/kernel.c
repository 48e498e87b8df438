/* The hour of the rehearsal's kernel in C, 64 sizes side by side: what the kernel is measured against.

   Written apart from it and held to it by tests/core/test_lanes.py. kernel_in_c.py puts the places of rules and rows
   before this file, so that both number them alike. */

#include <math.h>
#include <stdint.h>

#define N LANES
#define ROW(name) (lanes + (name) * N)

static inline double least(double a, double b) { return a < b ? a : b; }
static inline double most(double a, double b) { return a > b ? a : b; }

static inline void hour_of_lanes(const double *restrict rule, const double *restrict rest_v, int points,
                                 double *restrict lanes, double fixed, double panel, double backup, double vital,
                                 double useful, double comfort, double deferred, double floor_ah, double end_ah,
                                 int locked, int new_day, const int by_volts) {
  const double has_backup = rule[backup_h_per_day] > 0 && backup > 0, defers = rule[owed_most_ah] > 0;
  const double wants_vital = vital > 0, backup_carries = backup >= vital ? wants_vital : 0;
  const double heater = locked == COLD_HELPED ? rule[heater_a] : 0;
  const double warm = !(locked == COLD_HELPED || locked == COLD_HOPELESS);
  const double slow = locked == COLD_SLOW || heater > 0 ? rule[slow_charge_a] : NO_LIMIT_A;
  const double per_charge = 1 / rule[efficiency];
  const double efficiency_ = rule[efficiency], leak = rule[leak_per_h], idle_most = rule[idle_a];
  const double shed_u = rule[shed_useful], shed_c = rule[shed_comfort], hyst = rule[hysteresis];
  const double back_share_ = rule[back_share], hand = rule[hand_h], low = rule[low_v];
  const double on = rule[backup_on], off = rule[backup_off], backup_day = rule[backup_h_per_day];
  const double defer = rule[defer_share], owed_most = rule[owed_most_ah], accept = rule[accept_per_h];
  const double reserve_most = rule[reserve_ah], reserve_kept = rule[reserve_efficiency];
  const double reserve_a = rule[reserve_charge_a];
  for (int i = 0; i < N; i++) {
    const double floor = floor_ah * ROW(LANE_BANK)[i], full = ROW(LANE_FULL)[i];
    double source = fixed + panel * ROW(LANE_PANELS)[i], charge = ROW(CHARGE)[i];
    const double leaked = charge * leak, idle = least(source, idle_most);
    source -= idle;
    charge = charge - leaked - least(most(charge - leaked, 0), idle_most - idle);
    const double room = full - floor, above = charge - floor;

    const double useful_off = (above < (shed_u + hyst * ROW(USEFUL_OFF)[i]) * room) & (shed_u > 0);
    const double comfort_off = (above < (shed_c + hyst * ROW(COMFORT_OFF)[i]) * room) & (shed_c > 0);
    const double back = above >= back_share_ * room, source_carries = source >= vital ? wants_vital : 0;
    const double somebody = ROW(DARK_H)[i] >= hand;
    double tripped = ROW(TRIPPED)[i] * (1 - most(back, most(source_carries, backup_carries)) * somebody);
    const double wanted = (vital + useful * (1 - useful_off) + comfort * (1 - comfort_off)) * (1 - tripped);

    double left = new_day ? backup_day : ROW(BACKUP_LEFT_H)[i];
    const double held_on = above < off * room ? ROW(BACKUP_RUNS)[i] : 0, starts = above < on * room;
    const double runs = has_backup * most(held_on, starts) * (left > 0);
    const double given = backup * runs;
    left -= runs;

    const double direct = least(source, wanted), helped = least(given, wanted - direct);
    const double lacking = wanted - direct - helped;
    double held = most(above, 0), whole = most(charge - end_ah * ROW(LANE_BANK)[i], 0);
    if (by_volts) {
      const double place = least(most(charge / full, 0), 1) * (points - 1);
      int at = (int)place;
      at = at < points - 2 ? at : points - 2;
      const double volts = rest_v[at] + (place - at) * (rest_v[at + 1] - rest_v[at]);
      const int sags = volts - lacking * ROW(LANE_OHM)[i] < low;
      held = sags ? 0 : held;
      whole = sags ? 0 : whole;
    }
    double from_bank = least(lacking, held);
    double reserve = ROW(RESERVE)[i];
    const double from_reserve = least(lacking - from_bank, reserve);
    reserve -= from_reserve;
    from_bank += least(lacking - from_bank - from_reserve, most(whole - held, 0));
    charge -= from_bank;
    const double missed = lacking - from_bank - from_reserve, runs_out = missed > 1e-12;
    const double part = (1 - tripped) * (1 - runs_out) + runs_out * ((wanted - missed) / most(wanted, 1e-300));
    tripped = most(tripped, runs_out);

    double spare = source - direct, owed = ROW(OWED)[i] + deferred * defers;
    const double fed = (above >= defer * room) * (1 - tripped) * defers, waited = least(spare, owed) * fed;
    owed = least(owed - waited, owed_most);
    spare += given - helped - waited;
    const double heat = heater < spare ? heater : 0;
    spare -= heat;
    const double missing = full - charge, limit = least(ROW(LANE_MOST)[i], slow * ROW(LANE_BANK)[i]);
    double take = least(least(spare, limit), least(missing * per_charge, accept * missing));
    take = most(take, 0) * most(warm, heat > 0);
    charge += take * efficiency_;
    const double wants = (reserve_most - reserve) / reserve_kept;
    reserve += most(0, least(spare - take, least(reserve_a, wants))) * reserve_kept;

    ROW(CHARGE)[i] = charge;
    ROW(RESERVE)[i] = reserve;
    ROW(OWED)[i] = owed;
    ROW(BACKUP_LEFT_H)[i] = left;
    ROW(DARK_H)[i] = (ROW(DARK_H)[i] + 1) * tripped;
    ROW(TRIPPED)[i] = tripped;
    ROW(USEFUL_OFF)[i] = useful_off;
    ROW(COMFORT_OFF)[i] = comfort_off;
    ROW(BACKUP_RUNS)[i] = runs;
    ROW(LANE_PART)[i] = part;
  }
}

#define ALL_HOURS(by_volts)                                                                                        \
  for (int64_t year = 0; year < years; year++)                                                                     \
    for (int64_t hour = 0; hour < hours; hour++) {                                                                 \
      const int64_t at = year * hours + hour;                                                                      \
      const double *load = load_a + hour * 4, vital = load[0];                                                     \
      double *row = served + month[hour] * N;                                                                      \
      hour_of_lanes(rule, rest_v, points, lanes, fixed_a[hour], panels_a[at], backup_a[hour], vital, load[1],      \
                    load[2], load[3], floor_ah[at], end_ah[at], locked[at], new_day[hour], by_volts);              \
      for (int i = 0; i < N; i++) row[i] += vital * ROW(LANE_PART)[i];                                             \
    }

/* Vital amp-hours served by month (12, 64) are added to; `lanes` is left as it ends. */
void vital_lanes(const double *rule, const double *rest_v, int points, const double *fixed_a, const double *panels_a,
                 const double *backup_a, const double *load_a, const double *floor_ah, const double *end_ah,
                 const int8_t *locked, const uint8_t *new_day, const int64_t *month, int64_t years, int64_t hours, double *restrict lanes,
                 double *restrict served) {
  if (rule[low_v] > 0) {
    ALL_HOURS(1)
  } else {
    ALL_HOURS(0)
  }
}
