import { IsBoolean, IsInt, IsOptional, IsString, Matches, MaxLength } from 'class-validator';

/** A name that is typed once, and a colour. */
export class NamePerson {
  @IsOptional() @IsString() @MaxLength(200) name?: string;
  @IsOptional() @IsInt() hue?: number;
}

/** Name and pass phrase of a seat. */
export class SignIn {
  @IsString() @MaxLength(40) name!: string;
  @IsString() @MaxLength(200) phrase!: string;
}

/** A window has the session open and records or not, or closes. */
export class NoteHere {
  @Matches(/^[\w-]{1,64}$/, { message: 'window: 1 to 64 letters, digits, _ and -' }) window!: string;
  @IsOptional() @IsBoolean() going?: boolean;
  @IsOptional() @IsBoolean() recording?: boolean;
}

/** A preset; its chain is read by the rules of the session. */
export class KeepPreset {
  @IsString() @MaxLength(200) name!: string;
  @IsOptional() @IsString() @MaxLength(200) category?: string;
  /** Type of the one stage that it holds; null: it is a whole chain. */
  @IsOptional() @IsString() @MaxLength(40) stage?: string | null;
}

/** A session kept as a template. */
export class KeepTemplate {
  @IsString() @MaxLength(64) session!: string;
  @IsString() @MaxLength(200) name!: string;
  @IsOptional() @IsString() @MaxLength(80) category?: string;
  @IsOptional() @IsBoolean() media?: boolean;
}
