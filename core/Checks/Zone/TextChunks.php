<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\Txt;
use HarborPost\Core\Dns\Zone\Zone;

final class TextChunks implements ZoneRule
{
    /** Bytes above which an answer with the text may not fit a UDP packet without EDNS (RFC 7208 §3.4). */
    private const LARGE = 450;

    public function explanation(): string
    {
        return 'The strings of a text are joined without a space; an SPF text cut between two words runs them together.';
    }

    public function standard(): string
    {
        return 'RFC 7208 §3.3';
    }

    public function at(Zone $zone, array $records): iterable
    {
        foreach ($records as $record) {
            if (! $record->data instanceof Txt || ! str_starts_with(strtolower($record->data->joined()), 'v=spf1')) {
                continue;
            }
            foreach ($record->data->strings as $i => $string) {
                $before = $record->data->strings[$i - 1] ?? null;
                if (
                    $before !== null
                        && ! str_ends_with($before, ' ')
                        && preg_match('/\A(?:[+?~-]?(?:all|include:|a\b|mx\b|ip[46]:|exists:|ptr\b)|redirect=|exp=)/i', $string) === 1
                ) {
                    yield new Finding(
                        'spf-joined',
                        Severity::Warning,
                        'two words of the SPF text run together: …'.substr($before, -12).substr($string, 0, 12).'…',
                        $this->standard(),
                        $record->owner,
                        $record->type(),
                        'end the first string with a space',
                    );
                }
            }
            if (strlen($record->data->joined()) > self::LARGE) {
                yield new Finding(
                    'spf-long',
                    Severity::Note,
                    'an SPF text of '.strlen($record->data->joined()).' bytes may not fit an answer over UDP',
                    'RFC 7208 §3.4',
                    $record->owner,
                    $record->type(),
                    'shorten it by include',
                );
            }
        }
    }
}
