<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\Mailing;
use App\Links\MailClient;
use App\Models\MailState;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

final class MailSend extends Command
{
    /** Minutes before each further try; after the last, it is given up: somewhat more than a day. */
    private const PAUSES = [1, 5, 30, 120, 360, 720, 720];

    private const AT_ONCE = 200;

    /** Mails in a row that the server did not take, after which the rest waits. */
    private const GIVES_UP = 3;

    protected $signature = 'mail:send';

    protected $description = 'Writes the mails that people get, and hands them to the mail server';

    public function handle(): int
    {
        if (! MailClient::isSet()) {
            $this->line('no mail server is set');

            return 0;
        }
        $written = Mailing::collect();
        $sent = $failed = 0;
        $rows = DB::table('mails')->where('state', MailState::Waiting)->where('next_at', '<=', now())
            ->orderBy('next_at')->limit(self::AT_ONCE)
            ->get();
        foreach ($rows as $mail) {
            // Whoever comes second finds it taken: one mail goes once.
            $mine = DB::table('mails')->where('id', $mail->id)->where('state', MailState::Waiting)->where('tries', $mail->tries)
                ->update(['tries' => $mail->tries + 1, 'next_at' => now()->addMinutes(self::PAUSES[$mail->tries] ?? 1)]);
            if ($mine === 0) {
                continue;
            }
            $content = $mail->content === null ? null : (string) gzdecode((string) $mail->content);
            $why = MailClient::send((string) $mail->address, (string) $mail->subject, (string) $mail->body, $mail->file, $content);
            $over = $why !== null && ! isset(self::PAUSES[$mail->tries]);
            DB::table('mails')->where('id', $mail->id)->update(match (true) {
                $why === null => ['state' => MailState::Sent, 'sent_at' => now(), 'says' => '', 'content' => null],
                $over => ['state' => MailState::GivenUp, 'says' => $why],
                default => ['says' => $why],
            });
            $why === null ? $sent++ : $failed++;
            if ($why !== null && $sent === 0 && $failed >= self::GIVES_UP) {
                break;
            }
        }
        $this->line("$written written, $sent sent, $failed not");

        return 0;
    }
}
