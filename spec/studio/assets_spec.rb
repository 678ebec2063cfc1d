# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Assets do
    around { |example| with_workshop { |made| (@workshop = made) && example.run } }
    attr_reader :workshop

    let(:obj) { Formats::OBJ.write(Demo::Models.vase) }

    it "calls a mesh what its file was called last" do
      first = workshop.assets.bring(obj, "Vase.obj")
      again = workshop.assets.bring(obj, "Garden jug.obj")
      expect(again[:digest]).to eq(first[:digest])
      expect(again[:name]).to eq("Garden jug.obj")
      expect(workshop.assets.list.size).to eq(1)
    end

    it "gives a mesh that was only kept a name once somebody brings it" do
      digest = workshop.assets.keep(Demo::Models.bowl)
      expect(workshop.assets.list).to be_empty
      back = workshop.assets.bring(Formats::OBJ.write(workshop.assets.mesh(digest)), "Bowl.obj")
      expect(workshop.assets.list.map { |one| one[:name] }).to eq([back[:name]])
    end

    it "says which mesh is not there, and which file is damaged" do
      expect { workshop.assets.fetch("0badc0de") }.to raise_error(Refused, /no mesh.*bring its file again/)
      digest = workshop.assets.bring(obj, "Vase.obj")[:digest]
      File.binwrite(workshop.home.within("meshes", "#{digest}.mesh"), "nothing of use")
      expect { workshop.assets.mesh(digest) }.to raise_error(Refused, /damaged; bring it again/)
    end
  end
end
