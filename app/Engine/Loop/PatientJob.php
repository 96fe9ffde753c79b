<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/** A job that only reads: it goes on where no command waits, a bit a turn, and market and orders never wait for it. */
interface PatientJob extends Job {}
