import { IsIn, IsInt, IsNumber, IsOptional, IsString, MaxLength } from 'class-validator';
import type { PromptNews } from '@/core/prompt';
import { asked, json, route } from '@/server/http';
import { tellShare } from '@/server/sharing';

class News {
  @IsIn(['stopped', 'playing', 'recording']) state!: PromptNews['state'];
  @IsInt() position!: number;
  @IsNumber() at!: number;
  @IsOptional() @IsString() @MaxLength(200) cue!: string | null;
  @IsOptional() @IsInt() lineAt!: number | null;
}

/** What is heard in the engineer's window, for the performer's windows elsewhere. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { state, position, at, cue, lineAt } = await asked(request, News, 'News');
  tellShare(id, { state, position, at, cue: cue ?? null, lineAt: lineAt ?? null });
  return json({});
});
