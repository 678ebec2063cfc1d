# frozen_string_literal: true

require "open3"

module Vumbral
  RSpec.describe Studio::ExportWork do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    # A shot that needs no run: a ball in fog, a sun and two lamps, one of them in a prop's own light.
    def still
      with_workshop do |workshop|
        edits = [
          {"do" => "remove", "node" => "source-1"}, set("general", :last, 2), set("prop-1", :light, 0.5),
          add("fog", "haze", thickness: 0.1, glow: 0.2), add("lamp", "left", position: [-1.0, 1.0, 1.0]),
          add("lamp", "right", as: "spot", position: [1.0, 1.5, 1.0], beam: 0.1)
        ]
        id = shelve(workshop, small_shot("Still", edits: edits))
        yield workshop, id
      end
    end

    def export(workshop, id, as, **more)
      out = Dir.mktmpdir
      job = workshop.exports.start(id, as, out: out, size: [48, 27], frames: 1..1, **more)
      expect(work(workshop, job)).to include(state: "done")
      Dir[File.join(out, "*")].sort
    end

    it "writes pictures of a shot that needs no run as PNG of 8 and 16 bit, JPEG and OpenEXR" do
      still do |workshop, id|
        files = %w[png png16 jpg exr].to_h { |as| [as, export(workshop, id, as)[0]] }
        expect(files.values.map { |file| File.extname(file) }).to eq(%w[.png .png .jpg .exr])
        deep = Vips::Image.new_from_file(files["png16"])
        plain = Vips::Image.new_from_file(files["png"])
        expect([deep.format, plain.format]).to eq(%i[ushort uchar])
        expect((deep / 257.0 - plain).abs.max).to be <= 0.51
        expect(Vips::Image.new_from_file(files["jpg"]).get_fields).to include("icc-profile-data")
      end
    end

    it "renders a frame while the one before is finished, and finishes one while another is written" do
      still do |workshop, id|
        workshop.shots.edit(
          id, [{"do" => "add", "kind" => "layer", "id" => "one", "name" => "One"}, set("general", :last, 3)]
        )
        begun = %w[render finish].product((1..3).to_a).to_h { |step, n| ["#{step} #{n}", Queue.new] }
        waits = ->(name) { Timeout.timeout(20, nil, "#{name} was waited for in vain") { begun[name].pop } }
        count = Hash.new(0)
        allow(workshop.finishing).to receive(:gathered).and_wrap_original { |real, *given, **how, &block|
          (begun["render #{count[:render] += 1}"] << 1) && real.call(*given, **how, &block)
        }
        allow(workshop.finishing).to receive(:image).and_wrap_original { |real, *given, **how|
          n = count[:finish] += 1
          begun["finish #{n}"] << 1
          waits["render #{n + 1}"] if n < 3
          real.call(*given, **how)
        }
        allow(workshop.home).to receive(:write).and_wrap_original { |real, path, *given|
          if path.start_with?(Dir.tmpdir) && path.end_with?(".png") && (count[:write] += 1) < 3
            waits["finish #{count[:write] + 1}"]
          end
          real.call(path, *given)
        }
        expect(export(workshop, id, "png", frames: 1..3).size).to eq(3)
      end
    end

    it "writes OpenEXR that its own tools and another reader take, with depth and a layer for each lamp that add up" do
      still do |workshop, id|
        file = export(workshop, id, "exr", passes: %w[depth lamps])[0]
        told, status = Open3.capture2e("exrheader", file)
        expect(status).to be_success
        expect(told).to match(/compression.*zip/).and match(/chromaticities/).and match(
                      /depth\.Z, 32-bit floating-point/
                    )
        expect(told.scan(/^ {4}(\w+)\.R, 16-bit/).flatten.sort).to eq(%w[glow left right sky sun])
        picture = Vips::Image.new_from_file(file)
        document = workshop.shots.document(id)
        _, image = workshop.painting.image(document, 1, nil, [48, 27])
        expect(picture.getpoint(24, 13)[1]).to be_within(0.002).of(image[13, 24, 1])
        # Halves are told to a two thousandth.
        parts =
          Picture::Parts
            .of(Picture::Renderer.settings(document, 1), %w[Sun Left Right])
            .values
            .map { |part| workshop.painting.of(part, nil, [48, 27]) }
        whole = image.to_a.each_slice(4).map { |row| row.first(3) }
        sums =
          parts
            .map { |part| part.to_a.each_slice(4).map { |row| row.first(3) } }
            .transpose
            .map { |rows| rows.transpose.map(&:sum) }
        off = whole.flatten.zip(sums.flatten).map { |a, b| (a - b).abs / [a, 0.02].max }
        expect(off.max).to be < 0.01
      end
    end

    it "writes masks, normals, motion and heat beside it, which come to the picture's own layers exactly" do
      still do |workshop, id|
        file = export(workshop, id, "exr", passes: %w[lamps masks normal motion heat])[0]
        told, status = Open3.capture2e("exrheader", file)
        expect(status).to be_success
        expect(told.scan(/^ {4}([\w.]+), 32-bit/).flatten).to include(
          "crypto_prop00.R", "crypto_prop01.A", "heat.T", "motion.X", "motion.Y"
        )
        expect(told).to match(/normal\.Z, 16-bit/).and match(%r{cryptomatte/\w{7}/manifest.*"Ember bowl"}m)
      end
    end

    it "refuses a volume where nothing is run, and a pass that is none, in a sentence" do
      still do |workshop, id|
        expect { workshop.exports.start(id, "vdb") }.to raise_error(Refused, /Nothing feeds this shot/)
        expect { workshop.exports.start(id, "exr", passes: ["albedos"]) }.to raise_error(
          Refused, /There is no pass "albedos"; there are: depth, lamps/
        )
      end
    end

    it "keeps numbers as halves and floats do" do
      values = Kernel::Buffer.of(:f32, [0.0, 1.0, -2.5, 65_504.0, 1e9, 6.1e-5, 1e-7, 0.333, 1023.6, -0.00123], 1, 10, 1)
      Dir.mktmpdir do |folder|
        path = File.join(folder, "a.exr")
        File.binwrite(path, Formats::EXR.write({"R" => [values, 0], "G" => [values, 0], "B" => [values, 0]}))
        image = Vips::Image.new_from_file(path)
        read = (0...10).map { |x| image.getpoint(x, 0) }
        read.zip(values.to_a).each do |(half, _), value|
          held = value.clamp(-65_504.0, 65_504.0)
          expect(half).to be_within([held.abs / 2000.0, 6e-8].max).of(held)
          expect([Formats::EXRKernels.whole(value)].pack("L<").unpack1("e")).to eq([value].pack("e").unpack1("e"))
        end
      end
    end
  end
end
