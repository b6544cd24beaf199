process.env.GAVREL_PAIR = '1';
