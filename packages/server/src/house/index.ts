/** What other domains use of this one. */
export { hashSecret, isSecret, makeSecret, tokenOf } from './access/secret-address';
export { HouseBook } from './house/house-book';
export { addHouseRecord, archiveHouseRecord, editHouseRecord } from './house/house-record';
export { HOUSE_STORY } from './house/house-story';
export { tellPerson } from './notices/tell-person';
export { tellRole } from './notices/tell-role';
export { expectedMinutes } from './people/expected-minutes';
export { publicHolidays } from './people/public-holidays';
export { readWork, spanOfDates, type WorkOf } from './people/read-work';
