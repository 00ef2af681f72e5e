<?php

declare(strict_types=1);

namespace HarborPost\Standins\Mailbox;

use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Mode;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/** A mail server that keeps what it is given and delivers nothing (RFC 5321, as far as a client needs). */
final class Mailbox
{
    private const MOST = 32 << 20;

    private const KEPT = 500;

    /** @var list<array{from: string, to: list<string>, data: string, at: int}> */
    private array $mails = [];

    private readonly Control $control;

    private readonly Journal $journal;

    public function __construct(private readonly LoopInterface $loop, int $port, int $control, string $token, string $directory)
    {
        $this->journal = new Journal("$directory/mails.jsonl");
        foreach ($this->journal->entries() as $entry) {
            $this->keep($entry);
        }
        (new TcpServer("127.0.0.1:$port", $loop))->on('connection', fn (ConnectionInterface $c) => $this->serve($c));
        $this->control = new Control($loop, $control, $token, [
            'status' => fn (): array => ['mails' => count($this->mails)],
            'mails' => fn (): array => ['mails' => array_slice($this->mails, -50)],
        ]);
    }

    private function serve(ConnectionInterface $connection): void
    {
        $mode = $this->control->mode;
        if ($mode === Mode::Silent) {
            return;
        }
        $say = fn (string $line) => $mode === Mode::Slow
            ? $this->loop->addTimer(Mode::DELAY, fn () => $connection->write("$line\r\n"))
            : $connection->write("$line\r\n");
        $mail = ['from' => '', 'to' => [], 'data' => null];
        $buffer = '';
        $say('220 mailbox ready');
        $connection->on('data', function (string $data) use ($connection, $say, &$buffer, &$mail): void {
            $buffer .= $data;
            if (strlen($buffer) > self::MOST) {
                $connection->close();
            }
            while (true) {
                if ($mail['data'] !== null) {
                    $end = strpos($buffer, "\r\n.\r\n");
                    if ($end === false) {
                        return;
                    }
                    $text = (string) preg_replace('/^\.\./m', '.', substr($buffer, 0, $end + 2));
                    $buffer = substr($buffer, $end + 5);
                    $entry = ['from' => $mail['from'], 'to' => $mail['to'], 'data' => $text, 'at' => time()];
                    $this->journal->append($entry);
                    $this->keep($entry);
                    $mail = ['from' => '', 'to' => [], 'data' => null];
                    $say('250 kept');

                    continue;
                }
                $end = strpos($buffer, "\r\n");
                if ($end === false) {
                    return;
                }
                $line = substr($buffer, 0, $end);
                $buffer = substr($buffer, $end + 2);
                $say($this->command($line, $mail));
                if (strcasecmp($line, 'QUIT') === 0) {
                    $connection->end();
                }
            }
        });
    }

    /** @param  array{from: string, to: list<string>, data: ?string}  $mail */
    private function command(string $line, array &$mail): string
    {
        $verb = strtoupper(strtok($line, ' :') ?: '');
        $path = preg_match('/<([^>]*)>/', $line, $m) === 1 ? $m[1] : '';
        if ($verb === 'RCPT' && $this->control->mode === Mode::Refusing) {
            return '451 told to refuse';
        }
        switch ($verb) {
            case 'EHLO':
            case 'HELO':
                return '250 mailbox';
            case 'MAIL':
                $mail = ['from' => $path, 'to' => [], 'data' => null];

                return '250 go on';
            case 'RCPT':
                $mail['to'][] = $path;

                return '250 go on';
            case 'DATA':
                if ($mail['to'] === []) {
                    return '503 to whom?';
                }
                $mail['data'] = '';

                return '354 end with a dot';
            case 'RSET':
                $mail = ['from' => '', 'to' => [], 'data' => null];

                return '250 forgotten';
            case 'QUIT':
                return '221 farewell';
            default:
                return $verb === 'NOOP' ? '250 well' : '502 not known here';
        }
    }

    /** @param  array<mixed>  $entry */
    private function keep(array $entry): void
    {
        if (is_string($entry['from'] ?? null) && is_array($entry['to'] ?? null) && is_string($entry['data'] ?? null)) {
            $this->mails[] = [
                'from' => $entry['from'], 'to' => array_values(array_filter($entry['to'], is_string(...))), 'data' => $entry['data'],
                'at' => is_int($entry['at'] ?? null) ? $entry['at'] : 0,
            ];
            $this->mails = array_slice($this->mails, -self::KEPT);
        }
    }
}
